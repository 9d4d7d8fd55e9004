// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/measures.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"

namespace askcount::plan {
namespace {

constexpr Seconds kCalm_s = 7;

}  // namespace

std::string measure_words(MotionWay way) {
  static constexpr const char* words[] = {to_say("by stopwatch"), to_say("by two pictures"),
                                          to_say("by speed and distance")};
  return say(words[static_cast<int>(way)]);
}

Measure stopwatch(const std::vector<Seconds>& taps) {
  if (taps.empty())
    throw bad_input(say("Nothing was tapped."),
                    say("Press once when the subject enters the frame and once when it leaves."));
  Measure m;
  m.taps = static_cast<int>(taps.size());
  for (const Seconds t : taps) m.crossing_s += t / static_cast<double>(taps.size());
  if (taps.size() < 2) return m;
  double squares = 0;
  for (const Seconds t : taps) squares += (t - m.crossing_s) * (t - m.crossing_s);
  m.spread_s = std::sqrt(squares / static_cast<double>(taps.size() - 1));
  return m;
}

Seconds interval_for(const Measure& m, Seconds screen_crossing_s, double fps) {
  return m.crossing_s / screen_crossing_s / fps;
}

Findings judge(const std::vector<Measure>& measures) {
  if (measures.size() < 2) return {};
  const auto [low, high] =
      std::minmax_element(measures.begin(), measures.end(),
                          [](const Measure& a, const Measure& b) { return a.crossing_s < b.crossing_s; });
  const std::string both =
      fmt::format("{} {}, {} {}", format_length(low->crossing_s, 1), measure_words(low->way),
                  format_length(high->crossing_s, 1), measure_words(high->way));
  if (high->crossing_s > 1.5 * low->crossing_s)
    return {{"measures_differ", Severity::Warning, say("The measurements do not agree"),
             both + say(". Measure again, and see that both looked at the same subject."),
             fix::SetSlot{Slot::FieldCrossing, low->crossing_s}}};
  return {{"measures_agree", Severity::Ok, say("The measurements agree"), both + "."}};
}

const char* motion_word(double screen_crossing_s, double step, double trail) {
  const double jump = trail >= 0.8 ? step / 2 : step;
  if (jump > 0.05) return to_say("broken up");
  if (screen_crossing_s >= kCalm_s) return to_say("calm");
  return screen_crossing_s >= kCalm_s / 2 ? to_say("natural") : to_say("lively");
}

}  // namespace askcount::plan
