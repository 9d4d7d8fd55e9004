// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/settable.h"

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/language.h"
#include "base/units.h"
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

Seconds nearest_time(const Timer& timer, Seconds s) {
  if (timer.intervals.empty())
    return std::max(timer.smallest_step_s, std::round(s / timer.smallest_step_s) * timer.smallest_step_s);
  return *std::min_element(timer.intervals.begin(), timer.intervals.end(),
                           [s](Seconds a, Seconds b) { return std::abs(a - s) < std::abs(b - s); });
}

Seconds next_time(const Timer& timer, Seconds s) {
  if (timer.intervals.empty()) return std::min(s + timer.smallest_step_s, longest_time(timer));
  const auto next = std::upper_bound(timer.intervals.begin(), timer.intervals.end(), s + 1e-9);
  return next == timer.intervals.end() ? timer.intervals.back() : *next;
}

Seconds longest_time(const Timer& timer) {
  return timer.intervals.empty() ? timer.longest_s : std::min(timer.longest_s, timer.intervals.back());
}

std::string times_words(const Timer& timer) {
  if (timer.intervals.empty()) return say("in steps of {}", format_length(timer.smallest_step_s));
  constexpr size_t kMost = 12;
  std::string list;
  for (size_t i = 0; i < timer.intervals.size() && i < kMost; ++i)
    list += (list.empty() ? "" : ", ") + format_length(timer.intervals[i]);
  return say("which knows {}", list) + (timer.intervals.size() > kMost ? say(" and so on") : "");
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
  const Seconds before = timer.counts == Counts::Gap ? held : 0, longest = longest_time(timer);
  Seconds told = nearest_time(timer, sums.interval_s - before);
  while (before + told <= open && told < longest) told = next_time(timer, told);
  s.interval_s = before + told;
  s.trail = s.shutter_s / s.interval_s;
  s.field_s = static_cast<double>(shots_of(sums) - 1) * s.interval_s + open;
  const auto same = [](double a, double b) { return std::abs(a - b) <= 0.005 * std::max(a, b); };
  s.as_planned =
      same(s.interval_s, sums.interval_s) && same(exact_shutter(s.shutter_s), exact_shutter(sums.shutter_s));
  return s;
}

}  // namespace askcount::plan
