// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/ticks.h"

#include <chrono>

namespace askcount::app {
namespace {

std::function<std::int64_t()>& driven() {
  static std::function<std::int64_t()> clock;
  return clock;
}

}  // namespace

std::int64_t ticks_ms() {
  if (driven()) return driven()();
  return std::chrono::duration_cast<std::chrono::milliseconds>(
             std::chrono::steady_clock::now().time_since_epoch())
      .count();
}

void drive_ticks(std::function<std::int64_t()> clock) {
  driven() = std::move(clock);
}

}  // namespace askcount::app
