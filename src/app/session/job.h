// SPDX-License-Identifier: GPL-3.0-or-later
// Long work beside the window: one at a time, with progress, cancel, and a question whether it is still
// wanted.
#pragma once

#include <functional>
#include <list>
#include <memory>
#include <QElapsedTimer>
#include <QObject>
#include <QString>
#include <thread>

#include "base/progress.h"

namespace askcount::app {

/// What a job is to do.
struct Task {
  QString doing;                          ///< "Reading the card"
  std::function<void(const Work&)> work;  ///< on a thread of its own
  std::function<void()> done;             ///< in the window's thread, once it went well and is wanted
  std::function<bool()> wanted;           ///< in the window's thread: does what it is made from still stand?
  QString unit = {};                      ///< of what is counted, with a space before it; empty for things
  QString dropped = {};                   ///< what is told where it is let go of: "Copying was stopped."
};

/// Runs tasks of the core. All signals arrive in the window's thread. Destroying it asks the work to stop and
/// waits for it.
class Job : public QObject {
  Q_OBJECT
 public:
  explicit Job(QObject* parent = nullptr);
  ~Job() override;

  /// Starts a task; false, and nothing happens, where another is running. A result that is no longer wanted
  /// when it arrives is dropped in silence.
  bool start(Task task);
  /// The person's wish: the work stops, ended() tells.
  void cancel();
  /// Lets go of the work at hand if it is no longer wanted: it is asked to stop, nothing is heard of it
  /// again, and another may start at once.
  void review();
  /// The same whatever it is.
  void disown();
  /// Waits until all work that was let go of has ended, and its late results were dropped.
  void settle();

  bool running() const { return running_ != nullptr; }
  QString doing() const { return running_ ? running_->task.doing : QString(); }
  QString unit() const { return running_ ? running_->task.unit : QString(); }
  size_t done_count() const { return done_count_; }
  size_t total() const { return total_; }
  /// "18 a second, 7 s left"; empty while too little is known.
  QString pace() const;

 signals:
  void started();
  void progressed();
  /// `trouble` is empty when all went well, and says what happened otherwise; `cancelled` where it was
  /// stopped.
  void ended(QString trouble, bool cancelled);
  /// Work of which a person must know was let go of; what its task says of that.
  void was_dropped(QString words);

 private:
  struct Running {
    Task task;
    std::jthread thread;
  };
  void run(const std::shared_ptr<Running>& running, const std::stop_token& stop);
  void finish(const std::shared_ptr<Running>& running, const QString& trouble, bool cancelled);

  std::shared_ptr<Running> running_;
  std::list<std::shared_ptr<Running>> leaving_;  // disowned, on their way to stop
  QElapsedTimer clock_;
  size_t done_count_ = 0, total_ = 0;
};

}  // namespace askcount::app
