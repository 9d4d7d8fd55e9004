// SPDX-License-Identifier: GPL-3.0-or-later
// Takes written beside the window: a disk may take seconds to say it has one.
#pragma once

#include <filesystem>
#include <functional>
#include <map>
#include <mutex>
#include <QObject>
#include <QString>
#include <set>

#include "app/session/worker.h"
#include "take/take.h"

namespace askcount::app {

/// How a saving ended.
struct Saved {
  std::filesystem::path file;  ///< that was to be written
  QString trouble;             ///< empty where it was
  bool copy = false;           ///< it was not, but a second place took a copy
  bool changed = false;        ///< it was not, because another program has changed it meanwhile
};

/// Writes takes in the order they come, on a thread of its own. Destroying it writes what still waits.
class Saver : public QObject {
  Q_OBJECT
 public:
  explicit Saver(QObject* parent = nullptr);

  /// Says what a file that was opened holds: where it holds something else when it is saved, somebody changed
  /// it, and it is left alone.
  void opened(const std::filesystem::path& file, std::string content);
  /// Writes `take` to `file`; where that fails and `second` is not empty, a copy goes there. `over` writes
  /// over a file that was changed meanwhile, or that was never opened here (the person said so). `done` is
  /// called in the window's thread. Of savings to one file that still wait only the newest is written.
  void save(const take::Take& take, const std::filesystem::path& file, const std::filesystem::path& second,
            bool over, std::function<void(const Saved&)> done);
  /// Waits until everything is written.
  void wait() { worker_.wait(); }

 private:
  struct Request {
    take::Take take;
    std::filesystem::path file, second;
  };
  Saved written(const Request& request);

  std::mutex mutex_;
  std::map<std::filesystem::path, std::string> known_;  // what the files hold, as far as is known here
  std::set<std::filesystem::path> over_;                // that are to be written over once more
  Worker worker_;                                       // last: it uses the rest
};

}  // namespace askcount::app
