// SPDX-License-Identifier: GPL-3.0-or-later
// How long work tells what it has done and is told to stop.
#pragma once

#include <cstddef>
#include <functional>
#include <stop_token>

namespace askcount {

/// Called as work goes on: `done` of `total` frames. May be called from any thread, never from two at once.
using Progress = std::function<void(size_t done, size_t total)>;

/// What long work is given. An empty progress and a token that never stops are fine.
struct Work {
  Progress progress;
  std::stop_token stop;

  void report(size_t done, size_t total) const {
    if (progress) progress(done, total);
  }
};

}  // namespace askcount
