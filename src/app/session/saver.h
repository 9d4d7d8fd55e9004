// Takes written beside the window: a disk may take seconds to say it has one.
#pragma once

#include <condition_variable>
#include <deque>
#include <filesystem>
#include <functional>
#include <mutex>
#include <QObject>
#include <QString>
#include <thread>

#include "take/take.h"

namespace askcount::app {

/// How a saving ended.
struct Saved {
  std::filesystem::path file;  ///< that was to be written
  QString trouble;             ///< empty where it was
  bool copy = false;           ///< it was not, but a second place took a copy
};

/// Writes takes in the order they come, on a thread of its own. Destroying it writes what still waits.
class Saver : public QObject {
  Q_OBJECT
 public:
  explicit Saver(QObject* parent = nullptr);
  ~Saver() override;

  /// Writes `take` to `file`; where that fails and `second` is not empty, a copy goes there. `done` is called
  /// in the window's thread. Of savings to one file that still wait only the newest is written.
  void save(const take::Take& take, const std::filesystem::path& file, const std::filesystem::path& second,
            std::function<void(const Saved&)> done);
  /// Waits until everything is written.
  void wait();

 private:
  struct Request {
    take::Take take;
    std::filesystem::path file, second;
    std::function<void(const Saved&)> done;
  };
  void work(const std::stop_token& stop);

  std::mutex mutex_;
  std::condition_variable_any wake_, idle_;
  std::deque<Request> waiting_;
  bool busy_ = false;
  std::jthread thread_;  // last: it uses the rest
};

}  // namespace askcount::app
