// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/slider.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"

namespace askcount::plan {
namespace {

constexpr Seconds kTooFast_s = 4;  // film time in which something near may cross the screen at the least
constexpr double kMove_s = 0.5;    // a usual motor needs it for a step

}  // namespace

Sliding sliding_of(const Slider& slider, const Sums& sums, const Body& body, double focal_mm,
                   Seconds busy_s) {
  Sliding s;
  const auto steps = static_cast<double>(std::max(1LL, sums.frames - 1));
  s.step_mm = slider.travel_m * 1000 / steps;
  s.near_across = focal_mm / body.sensor_width_mm * slider.travel_m / std::max(0.01, slider.nearest_m);
  s.near_step = s.near_across / steps;
  s.near_crossing_film_s = s.near_step > 0 ? 1 / s.near_step / sums.fps.value() : 0;
  s.free_s = sums.interval_s - busy_s;
  return s;
}

Findings judge(const Sliding& s, const Slider& slider) {
  if (!slider.moves()) return {};
  Findings list;
  const std::string how =
      say("{} mm a step. What is {} m away goes {} % of the width past what is far, a screen's width in {}.",
          format_number(s.step_mm, s.step_mm < 10 ? 2 : 0), format_number(slider.nearest_m, 1),
          format_number(100 * s.near_across, s.near_across < 0.1 ? 1 : 0),
          format_length(s.near_crossing_film_s, 1));
  if (s.free_s < kMove_s + slider.settling_s)
    list.push_back(
        {"slider_sways", Severity::Stop, say("The slider has no time to stand still"),
         say("{} are free between two shots; a step takes about {} and settling {}. Lengthen the interval, "
             "or shorten the shutter.",
             format_length(std::max(0.0, s.free_s), 1), format_length(kMove_s, 1),
             format_length(slider.settling_s, 1))});
  if (s.near_crossing_film_s < kTooFast_s)
    list.push_back({"slider_too_fast", Severity::Warning, say("What is near races past"),
                    how + say(" Slide less, or keep further away.")});
  else
    list.push_back({"slider", Severity::Ok, say("How the slider moves"), how});
  return list;
}

}  // namespace askcount::plan
