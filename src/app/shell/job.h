// Long work beside the window: one at a time, with progress and cancel.
#pragma once

#include <functional>
#include <QElapsedTimer>
#include <QObject>
#include <QString>
#include <thread>

#include "base/progress.h"

namespace askcount::app {

/// Runs a function of the core on a thread of its own. All signals arrive in the window's thread. Destroying
/// it asks the work to stop and waits for it.
class Job : public QObject {
  Q_OBJECT
 public:
  explicit Job(QObject* parent = nullptr);
  ~Job() override;

  /// Starts `work`; `done` runs in the window's thread once it is through, unless it failed or was cancelled.
  /// Does nothing where something is running already.
  void start(const QString& doing, std::function<void(const Work&)> work, std::function<void()> done = {});
  void cancel();
  bool running() const { return running_; }
  QString doing() const { return doing_; }
  size_t done_count() const { return done_count_; }
  size_t total() const { return total_; }
  /// "18 a second, 7 s left"; empty while too little is known.
  QString pace() const;

 signals:
  void started();
  void progressed();
  /// `trouble` is empty when all went well, and says what happened otherwise; `cancelled` where the person
  /// stopped it.
  void ended(QString trouble, bool cancelled);

 private:
  void finish(const QString& trouble, bool cancelled);

  std::jthread thread_;
  std::function<void()> then_;
  QString doing_;
  QElapsedTimer clock_;
  size_t done_count_ = 0, total_ = 0;
  bool running_ = false;
};

}  // namespace askcount::app
