// SPDX-License-Identifier: GPL-3.0-or-later
// A thread beside the window that does one thing after another.
#pragma once

#include <condition_variable>
#include <deque>
#include <functional>
#include <mutex>
#include <string>
#include <thread>

namespace askcount::app {

/// Does things in the order in which they are given, on a thread of its own. Destroying it does what still
/// waits, so it is the last member of what its things use. Safe from several threads at once. For work that
/// is long, shows how far it is and can be stopped there is Job.
class Worker {
 public:
  Worker();
  ~Worker();
  Worker(const Worker&) = delete;
  Worker& operator=(const Worker&) = delete;

  /// A thing to do; it must not throw. Of those with the same `name` that still wait only the newest is done.
  void add(std::function<void()> thing, std::string name = {});
  /// Waits until nothing is left to do.
  void wait();

 private:
  struct Thing {
    std::string name;
    std::function<void()> work;
  };
  void run(const std::stop_token& stop);

  std::mutex mutex_;
  std::condition_variable_any wake_, idle_;
  std::deque<Thing> waiting_;
  bool busy_ = false;
  std::jthread thread_;  // last: it uses the rest
};

}  // namespace askcount::app
