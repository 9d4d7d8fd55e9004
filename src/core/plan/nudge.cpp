// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/nudge.h"

#include <algorithm>
#include <cmath>

namespace askcount::plan {
namespace {

double unit_at(double seconds) {
  if (seconds < 1) return 0.1;
  if (seconds < 10) return 0.5;
  if (seconds < 60) return 1;
  if (seconds < 600) return 10;
  if (seconds < 3600) return 60;
  return 600;
}

double step_length(double value, int direction) {
  // Going down from a border the finer unit counts.
  const double unit = unit_at(direction < 0 ? value - 1e-9 : value);
  const double n = direction > 0 ? std::floor(value / unit + 1e-6) + 1 : std::ceil(value / unit - 1e-6) - 1;
  return std::max(0.1, n * unit);
}

double step_rate(double value, int direction) {
  static constexpr double usual[] = {12, 24000.0 / 1001, 24, 25, 30000.0 / 1001, 30, 48,
                                     50, 60000.0 / 1001, 60, 120};
  if (direction > 0) {
    for (const double r : usual)
      if (r > value + 1e-4) return r;
    return value;
  }
  for (auto it = std::rbegin(usual); it != std::rend(usual); ++it)
    if (*it < value - 1e-4) return *it;
  return value;
}

}  // namespace

double nudged(Slot slot, double value, int steps) {
  const int direction = steps < 0 ? -1 : 1;
  for (int i = 0; i < std::abs(steps); ++i) switch (slot) {
      case Slot::Fps:
        value = step_rate(value, direction);
        break;
      case Slot::Frames:
        value = std::max(1.0, value + direction);
        break;
      case Slot::Shutter:
        value = std::clamp(std::exp2((std::round(std::log2(value) * 3) + direction) / 3), 1e-5, 86400.0);
        break;
      case Slot::Trail:
        value = std::clamp((std::round(value * 20) + direction) / 20, 0.05, 1.0);
        break;
      case Slot::Step:
        value = std::clamp(value * (direction > 0 ? 1.1 : 1 / 1.1), 1e-6, 1.0);
        break;
      case Slot::SpeedUp:
        value = std::max(1.0, std::round(value) + direction * (value < 100 ? 1 : 10));
        break;
      default:
        value = step_length(value, direction);
        break;
    }
  return value;
}

}  // namespace askcount::plan
