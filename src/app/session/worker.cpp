// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/worker.h"

namespace askcount::app {

Worker::Worker() : thread_([this](const std::stop_token& stop) { run(stop); }) {}

Worker::~Worker() {
  thread_.request_stop();
}

void Worker::add(std::function<void()> thing, std::string name) {
  const std::lock_guard lock(mutex_);
  if (!name.empty()) std::erase_if(waiting_, [&](const Thing& t) { return t.name == name; });
  waiting_.push_back({std::move(name), std::move(thing)});
  wake_.notify_one();
}

void Worker::wait() {
  std::unique_lock lock(mutex_);
  idle_.wait(lock, [this] { return waiting_.empty() && !busy_; });
}

void Worker::run(const std::stop_token& stop) {
  std::unique_lock lock(mutex_);
  for (;;) {
    wake_.wait(lock, stop, [this] { return !waiting_.empty(); });
    if (waiting_.empty()) return;  // told to stop, and nothing is left to do
    {
      const Thing thing = std::move(waiting_.front());
      waiting_.pop_front();
      busy_ = true;
      lock.unlock();
      thing.work();
    }
    lock.lock();
    busy_ = false;
    if (waiting_.empty()) idle_.notify_all();
  }
}

}  // namespace askcount::app
