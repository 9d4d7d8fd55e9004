#include "app/shell/job.h"

#include <atomic>
#include <memory>

#include "base/error.h"
#include "base/units.h"

namespace askcount::app {

Job::Job(QObject* parent) : QObject(parent) {}

Job::~Job() {
  if (thread_.joinable()) {
    thread_.request_stop();
    thread_.join();
  }
}

void Job::start(const QString& doing, std::function<void(const Work&)> work, std::function<void()> done) {
  if (running_) return;
  if (thread_.joinable()) thread_.join();
  running_ = true;
  doing_ = doing;
  then_ = std::move(done);
  done_count_ = total_ = 0;
  clock_.start();
  emit started();
  thread_ = std::jthread([this, work = std::move(work)](const std::stop_token& stop) {
    QString trouble;
    bool cancelled = false;
    // At most one progress event waits in the window's queue, however fast the work goes.
    const auto waiting = std::make_shared<std::atomic<bool>>(false);
    const Progress progress = [this, waiting](size_t n, size_t total) {
      if (n != total && waiting->exchange(true)) return;
      QMetaObject::invokeMethod(this, [this, n, total, waiting] {
        waiting->store(false);
        done_count_ = n;
        total_ = total;
        emit progressed();
      });
    };
    try {
      work({progress, stop});
    } catch (const Error& e) {
      cancelled = e.kind() == Error::Kind::Cancelled;
      trouble = QString::fromUtf8(e.what());
    } catch (const std::exception& e) {
      trouble = QString::fromUtf8(e.what());
    }
    QMetaObject::invokeMethod(this, [this, trouble, cancelled] { finish(trouble, cancelled); });
  });
}

void Job::cancel() {
  thread_.request_stop();
}

void Job::finish(const QString& trouble, bool cancelled) {
  running_ = false;
  const auto then = std::move(then_);
  then_ = {};
  if (trouble.isEmpty() && then) then();
  emit ended(trouble, cancelled);
}

QString Job::pace() const {
  const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
  if (!running_ || seconds < 0.7 || done_count_ == 0 || total_ == 0) return {};
  const double rate = static_cast<double>(done_count_) / seconds;
  const double left = static_cast<double>(total_ - done_count_) / rate;
  return QString("%1 a second, %2 left")
      .arg(QString::fromStdString(format_number(rate, rate < 10 ? 1 : 0)),
           QString::fromStdString(format_length(std::max(1.0, std::round(left)), 0)));
}

}  // namespace askcount::app
