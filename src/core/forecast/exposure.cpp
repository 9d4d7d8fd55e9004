// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/exposure.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"

namespace askcount::forecast {
namespace {

using take::Take;

/// "f/8", or "f/8 to f/2.8".
std::string from_to(ramp::Dial dial, const ExposurePlan& plan) {
  const std::string from = ramp::dial_words(dial, plan.first), to = ramp::dial_words(dial, plan.last);
  return from == to ? from : from + say(" to ") + to;
}

}  // namespace

ExposurePlan exposure_of(const Take& take) {
  return exposure_of(take, ramp_in_any_case(take));
}

ExposurePlan exposure_of(const Take& take, const ramp::Ramp& ramp) {
  const plan::Sums sums = take.sums();
  ExposurePlan plan;
  plan.follows = follows(take, ramp.ev);
  if (plan.follows) {
    plan.first = ramp.chain.front();
    plan.last = ramp.chain.back();
    plan.dials_known = true;
    plan.keeps_up = ramp.feasible;
    plan.estimated = !has_metered(take);
    const auto [low, high] = std::minmax_element(
        ramp.chain.begin(), ramp.chain.end(),
        [](const ramp::Exposure& a, const ramp::Exposure& b) { return a.shutter_s < b.shutter_s; });
    plan.shortest_s = low->shutter_s;
    plan.longest_s = high->shutter_s;
    if (const OnTheLens lens = on_the_lens(take); lens.stops > 0 && take.light.method == ramp::Method::Hand) {
      plan.filters = lens.filters;
      plan.filter_stops = lens.stops;
      plan.filters_off = ramp.filters_off;
    }
  } else {
    const Standing standing = standing_of(take, ramp.ev);
    plan.first = plan.last = standing.exposure;
    plan.dials_known = standing.dials_known;
    plan.estimated = standing.estimated;
    plan.shortest_s = plan.longest_s = standing.exposure.shutter_s;
    plan.offered = standing.offered;
    plan.filters = standing.match.filters;
    plan.filter_stops = standing.match.filter_stops;
    plan.match = standing.match;
  }
  plan.shortest_trail = plan.shortest_s / sums.interval_s;
  plan.longest_trail = plan.longest_s / sums.interval_s;
  const Seconds less =
      (sums.shutter_s - plan.longest_s) * sums.open_factor;  // than the wish, by whole clicks
  plan.gap_s = sums.gap_s + less;
  plan.field_s = sums.field_s - less;  // by the calendar, where the sums' is
  return plan;
}

std::string shutter_words(const ExposurePlan& plan) {
  if (!plan.follows) return dial_shutter_words(plan.first.shutter_s);
  std::string from = dial_shutter_words(plan.shortest_s);
  const std::string to = dial_shutter_words(plan.longest_s);
  if (from == to) return from;
  // As the evening goes: from what it begins with.
  return plan.first.shutter_s <= plan.last.shutter_s ? from + say(" to ") + to : to + say(" to ") + from;
}

std::string gap_words(const ExposurePlan& plan) {
  if (plan.gap_s <= 0) return say("none left where the shutter is {}", dial_shutter_words(plan.longest_s));
  return (plan.follows ? say("at least ") : "") + format_length(plan.gap_s);
}

std::string dials_words(const ExposurePlan& plan) {
  if (!plan.dials_known) return {};
  return from_to(ramp::Dial::Aperture, plan) + ", " + from_to(ramp::Dial::Iso, plan);
}

std::string filters_words(const ExposurePlan& plan) {
  std::string words;
  for (const std::string& f : plan.filters) words += (words.empty() ? "" : " + ") + f;
  return words;
}

}  // namespace askcount::forecast
