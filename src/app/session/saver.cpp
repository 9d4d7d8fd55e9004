#include "app/session/saver.h"

#include <algorithm>

#include "base/error.h"

namespace askcount::app {
namespace {

Saved written(const take::Take& take, const std::filesystem::path& file,
              const std::filesystem::path& second) {
  try {
    take::save_take(take, file);
    return {file, {}, false};
  } catch (const Error& e) {
    const QString why = QString::fromUtf8(e.what());
    if (second.empty()) return {file, why, false};
    try {
      take::save_take(take, second);
      return {file, why, true};
    } catch (const Error&) {
      return {file, why, false};
    }
  }
}

}  // namespace

Saver::Saver(QObject* parent)
    : QObject(parent), thread_([this](const std::stop_token& stop) { work(stop); }) {}

Saver::~Saver() {
  wait();
  thread_.request_stop();
  wake_.notify_all();
}

void Saver::save(const take::Take& take, const std::filesystem::path& file,
                 const std::filesystem::path& second, std::function<void(const Saved&)> done) {
  const std::lock_guard lock(mutex_);
  std::erase_if(waiting_, [&](const Request& r) { return r.file == file; });
  waiting_.push_back({take, file, second, std::move(done)});
  wake_.notify_all();
}

void Saver::wait() {
  std::unique_lock lock(mutex_);
  idle_.wait(lock, [this] { return waiting_.empty() && !busy_; });
}

void Saver::work(const std::stop_token& stop) {
  for (;;) {
    std::unique_lock lock(mutex_);
    if (!wake_.wait(lock, stop, [this] { return !waiting_.empty(); })) return;
    const Request request = std::move(waiting_.front());
    waiting_.pop_front();
    busy_ = true;
    lock.unlock();
    const Saved saved = written(request.take, request.file, request.second);
    if (request.done)
      QMetaObject::invokeMethod(
          this, [done = request.done, saved] { done(saved); }, Qt::QueuedConnection);
    lock.lock();
    busy_ = false;
    idle_.notify_all();
  }
}

}  // namespace askcount::app
