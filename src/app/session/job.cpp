// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/job.h"

#include <atomic>
#include <QCoreApplication>

#include "app/style/text.h"
#include "base/error.h"
#include "base/process.h"
#include "base/units.h"

namespace askcount::app {

Job::Job(QObject* parent) : QObject(parent) {}

Job::~Job() {
  blockSignals(true);
  if (running_) leaving_.push_back(std::move(running_));
  for (const auto& r : leaving_) r->thread.request_stop();
  for (const auto& r : leaving_)
    if (r->thread.joinable()) r->thread.join();
}

bool Job::start(Task task) {
  if (running_) return false;
  const auto running = std::make_shared<Running>();
  running->task = std::move(task);
  running_ = running;
  done_count_ = total_ = 0;
  clock_.start();
  emit started();
  running->thread = std::jthread([this, running](const std::stop_token& stop) { run(running, stop); });
  return true;
}

void Job::run(const std::shared_ptr<Running>& running, const std::stop_token& stop) {
  stand_back();
  QString trouble;
  bool cancelled = false;
  // At most one progress event waits in the window's queue, however fast the work goes.
  const auto waiting = std::make_shared<std::atomic<bool>>(false);
  const Progress progress = [this, waiting, running](size_t n, size_t total) {
    if (n != total && waiting->exchange(true)) return;
    QMetaObject::invokeMethod(this, [this, n, total, waiting, running] {
      waiting->store(false);
      if (running != running_) return;
      done_count_ = n;
      total_ = total;
      emit progressed();
    });
  };
  try {
    running->task.work({progress, stop});
  } catch (const Error& e) {
    cancelled = e.kind() == Error::Kind::Cancelled;
    trouble = QString::fromUtf8(e.what());
  } catch (const std::exception& e) {
    trouble = QString::fromUtf8(e.what());
  }
  QMetaObject::invokeMethod(
      this, [this, running, trouble, cancelled] { finish(running, trouble, cancelled); },
      Qt::QueuedConnection);
}

void Job::finish(const std::shared_ptr<Running>& running, const QString& trouble, bool cancelled) {
  if (running->thread.joinable()) running->thread.join();
  if (running != running_) {
    leaving_.remove(running);
    return;
  }
  const Task task = std::move(running->task);
  running_.reset();
  const bool wanted = !task.wanted || task.wanted();
  if (trouble.isEmpty() && wanted && task.done) task.done();
  emit ended(wanted ? trouble : QString(), cancelled || !wanted);
}

void Job::cancel() {
  if (running_) running_->thread.request_stop();
}

void Job::review() {
  if (running_ && running_->task.wanted && !running_->task.wanted()) disown();
}

void Job::disown() {
  if (!running_) return;
  running_->thread.request_stop();
  const QString dropped = running_->task.dropped;
  leaving_.push_back(std::move(running_));
  running_.reset();
  emit ended({}, true);
  if (!dropped.isEmpty()) emit was_dropped(dropped);
}

void Job::settle() {
  while (!leaving_.empty()) {
    const auto running = leaving_.front();
    if (running->thread.joinable()) running->thread.join();
    QCoreApplication::sendPostedEvents(this);
    leaving_.remove(running);
  }
}

QString Job::pace() const {
  const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
  if (!running() || seconds < 0.7 || done_count_ == 0 || total_ == 0) return {};
  const double rate = static_cast<double>(done_count_) / seconds;
  const double left = static_cast<double>(total_ - done_count_) / rate;
  return say_q("%1%2 a second, %3 left")
      .arg(QString::fromStdString(format_number(rate, rate < 10 ? 1 : 0)), unit(),
           QString::fromStdString(format_length(std::max(1.0, std::round(left)), 0)));
}

}  // namespace askcount::app

#include "moc_job.cpp"
