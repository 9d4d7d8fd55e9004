// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/close_up.h"

#include <algorithm>
#include <cmath>

#include "plan/budgets.h"

namespace askcount::plan {

CloseUp close_up(const Body& body, double magnification, double f_number, double blur_um) {
  const double m = std::clamp(magnification, 0.01, 10.0),
               blur_mm = (blur_um > 0 ? blur_um : 2 * body.pixel_um()) / 1000;
  CloseUp c;
  c.depth_mm = 2 * f_number * blur_mm * (m + 1) / (m * m);
  c.light_lost_stops = 2 * std::log2(1 + m);
  c.effective_f = f_number * (1 + m);
  c.field_width_mm = body.sensor_width_mm / m;
  return c;
}

std::optional<long long> refocus_every(const CloseUp& close, double grows_mm_per_hour, const Sums& sums) {
  if (!(grows_mm_per_hour > 0)) return {};
  const double seconds = close.depth_mm / 2 / grows_mm_per_hour * 3600;
  const auto frames = static_cast<long long>(std::min(1e12, seconds / sums.interval_s));
  if (frames >= shots_of(sums)) return {};
  return std::max(1LL, frames);
}

}  // namespace askcount::plan
