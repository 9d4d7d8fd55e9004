// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/wake.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/language.h"
#include "base/units.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "sky/weather.h"

namespace askcount::advice {
namespace {

constexpr Seconds kLong_s = 2 * 3600;
constexpr size_t kMost = 7;

}  // namespace

std::vector<Wake> wakes_of(const take::Take& take, const ramp::Ramp& ramp) {
  const plan::Sums sums = take.sums();
  const plan::Schedule schedule = forecast::schedule_of(take);
  std::vector<Wake> list;
  if (sums.field_s < kLong_s) return list;
  for (const plan::Swap& s : forecast::swaps_of(take, sums))
    list.push_back({s.after_s, s.what == "timer" ? std::string(say("start the timer again"))
                               : s.to.empty()    ? say("the {} ends, and no other comes along", s.what)
                                                 : say("change the {}: {} for {}", s.what, s.from, s.to)});
  const forecast::ExposurePlan exposure = forecast::exposure_of(take, ramp);
  const auto at = [&](long long frame) { return schedule.at_s(frame); };
  if (exposure.filters_off)
    list.push_back({at(*exposure.filters_off), say("take off ") + forecast::filters_words(exposure)});
  if (!ramp.steps.empty()) {
    list.push_back({at(ramp.steps.front().click.frame), say("the first click of the dials")});
    if (ramp.steps.size() > 1)
      list.push_back({at(ramp.steps.back().click.frame),
                      say("the last of {} clicks; from here on it runs alone", ramp.steps.size())});
  }
  if (!take.light.weather.heater)
    if (const auto dew = sky::dew_after_s(take.light.weather, take.temperature_c, sums.field_s))
      list.push_back({*dew, say("dew: the lens heater on")});
  list.push_back(
      {schedule.at_s(0) + forecast::program_of(take, exposure).field_s(), say("the last shot ends")});
  std::stable_sort(list.begin(), list.end(),
                   [](const Wake& a, const Wake& b) { return a.after_s < b.after_s; });
  return list;
}

Findings judge_wakes(const take::Take& take, const ramp::Ramp& ramp) {
  const std::vector<Wake> list = wakes_of(take, ramp);
  if (list.size() < 2) return {};  // nothing but its end
  std::string words;
  for (size_t i = 0; i < std::min(kMost, list.size()); ++i)
    words +=
        fmt::format("{}{} {}", words.empty() ? "" : "; ",
                    take.knows_start() ? format_clock(later(take.start, list[i].after_s), take.place.zone)
                                       : say("after ") + format_length(std::round(list[i].after_s / 60) * 60),
                    list[i].what);
  if (list.size() > kMost) words += say("; and {} more", list.size() - kMost);
  return {{"wake", Severity::Ok, say("Be there, and awake, for this"), words + "."}};
}

}  // namespace askcount::advice
