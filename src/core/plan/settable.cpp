// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/settable.h"

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "plan/budgets.h"

namespace askcount::plan {

bool beyond_dial(Seconds shutter_s, Seconds dial_s) {
  constexpr double kEngraved = 1.07;  // a dial's 30 s is open for 32
  return shutter_s > dial_s * kEngraved;
}

bool is_held(const Timer& timer, int exposures, Seconds shutter_s, Seconds dial_s) {
  constexpr Seconds kLeast_s = 2;
  constexpr double kOffTheDial = 1.0 / 12;  // of a stop
  if (!timer.holds || exposures != 1) return false;
  if (beyond_dial(shutter_s, dial_s)) return true;
  const Seconds exact = exact_shutter(shutter_s), nearest = exact_shutter(marked_shutter(exact));
  return shutter_s >= kLeast_s && std::abs(std::log2(exact / nearest)) > kOffTheDial &&
         std::abs(shutter_s - std::round(shutter_s / timer.smallest_step_s) * timer.smallest_step_s) < 0.01;
}

Settable settable(const Sums& sums, const Timer& timer, const Body& body) {
  const Seconds step = timer.smallest_step_s;
  const auto to_step = [step](Seconds s) { return std::max(step, std::round(s / step) * step); };
  Settable s;
  // An engraved 1/125 is 1/128 of a second: the dial's mark is what people read and what metadata says.
  const bool held_open = is_held(timer, sums.exposures, sums.shutter_s, body.longest_shutter_s);
  s.shutter_s = held_open ? to_step(sums.shutter_s)
                : sums.shutter_s > body.longest_shutter_s
                    ? sums.shutter_s  // on bulb, by a watch
                    : std::max(body.shortest_shutter_s, marked_shutter(exact_shutter(sums.shutter_s)));
  const Seconds open = (sums.interval_s - sums.gap_s) * s.shutter_s / sums.shutter_s;
  const Seconds held = held_open ? s.shutter_s : 0;
  s.interval_s =
      timer.counts == Counts::Gap ? held + to_step(sums.interval_s - held) : to_step(sums.interval_s);
  while (s.interval_s <= open) s.interval_s += step;
  s.trail = s.shutter_s / s.interval_s;
  s.field_s = static_cast<double>(shots_of(sums) - 1) * s.interval_s + open;
  const auto same = [](double a, double b) { return std::abs(a - b) <= 0.005 * std::max(a, b); };
  s.as_planned =
      same(s.interval_s, sums.interval_s) && same(exact_shutter(s.shutter_s), exact_shutter(sums.shutter_s));
  return s;
}

}  // namespace askcount::plan
