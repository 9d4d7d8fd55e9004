// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/light.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "plan/flash.h"
#include "plan/subject.h"

namespace askcount::forecast {

using take::Take;

Seconds room_of(const Take& take) {
  const plan::Sums sums = take.sums();
  return std::max(1e-3, sums.interval_s - take.body().writing_s - take.shot.lock_s);
}

ramp::RampRule rule_of(const Take& take) {
  ramp::RampRule rule = take.light.rule;
  const plan::Sums sums = take.sums();
  const Seconds room = room_of(take);
  // What was wished is the longest; where nothing is set a hand gets its time too.
  Seconds longest = std::min({sums.shutter_s, room, take.body().longest_shutter_s * 1.07});
  if (sums.trail_assumed) longest = std::min(longest, std::max(1e-3, room - take.light.turning_s));
  if (rule.longest_shutter_s > 0) longest = std::min(longest, rule.longest_shutter_s);
  rule.longest_shutter_s = longest;
  rule.shortest_shutter_s = std::min(std::max(rule.shortest_shutter_s, take.body().shortest_shutter_s / 1.03),
                                     rule.longest_shutter_s);
  rule.widest_f = std::max(rule.widest_f, take.lens().widest_f);
  rule.start_f = std::clamp(rule.start_f, rule.widest_f, std::max(rule.widest_f, take.lens().smallest_f));
  rule.lowest_iso = std::max(rule.lowest_iso, take.body().lowest_iso);
  rule.highest_iso = std::max(rule.lowest_iso, std::min(rule.highest_iso, take.body().highest_iso));
  rule.filter_stops = 0;
  for (const plan::Filter& f : take.kit.filters)
    if (std::count(take.light.filters.begin(), take.light.filters.end(), f.name) > 0)
      rule.filter_stops += f.stops;
  return rule;
}

sky::Body body_to_keep(const Take& take) {
  const bool stars = plan::any_kind(take.subject, &plan::SubjectKind::points_of_light);
  return stars && take.light.subject == sky::Body::Sun ? sky::Body::Core : take.light.subject;
}

const plan::Lamp* flash_of(const Take& take) {
  return take.lamp ? plan::flash_of(take.kit_in_use()) : nullptr;
}

bool has_metered(const Take& take) {
  return take.metered || take.light.source.anchor || take.light.source.readings.size() >= 2;
}

bool knows_light(const Take& take) {
  return take.knows_sky() || (take.knows_start() && take.light.source.readings.size() >= 2);
}

std::vector<double> light_of(const Take& take) {
  if (!knows_light(take))
    throw bad_input(say("Place and time are not set, so the light is not known."),
                    say("Set place, date and time."));
  const plan::Sums sums = take.sums();
  ramp::LightSource source = take.light.source;
  if (!source.anchor && take.metered)
    source.anchor = {
        take.start, ramp::ev_of_exposure(take.metered->shutter_s, take.metered->f_number, take.metered->iso)};
  const sky::Aim& aim = take.light.move.from;
  return ramp::light_along(source, take.place, take.start, sums.interval_s, sums.frames + sums.extra_shots,
                           {std::max(10.0, aim.tilt_deg), aim.bearing_deg});
}

bool follows(const Take& take, const std::vector<double>& ev) {
  constexpr double kSteady_stops = 1;
  if (take.light.method == ramp::Method::Fixed || take.lamp || ev.empty()) return false;
  if (!take.light.clicks.empty()) return true;  // moved by hand
  const auto [low, high] = std::minmax_element(ev.begin(), ev.end());
  return *high - *low >= kSteady_stops;
}

Standing standing_of(const Take& take, const std::vector<double>& ev) {
  const plan::Sums sums = take.sums();
  Standing s;
  if (const plan::Lamp* flash = flash_of(take); flash && flash->guide_m > 0) {
    const plan::FlashSetting set =
        plan::flash_setting(flash->guide_m, take.focus.distance_m, take.body(), take.lens());
    s.exposure = {sums.shutter_s, set.f_number, set.iso};
    s.match.setting = {sums.shutter_s, set.f_number, set.iso};
    s.match.missing_stops = -set.missing_stops;
    s.dials_known = true;
    return s;
  }
  std::optional<plan::Metered> metered = take.metered;
  if (!metered && !ev.empty()) {
    // As a meter would say it of the light at the first shot, held where a night is to look like one.
    const ramp::RampRule rule = rule_of(take);
    const double light = ramp::light_stops_of_ev(ev.front());
    const double dark = ramp::band_at(rule, light).high_stops - rule.high_stops;
    metered = {std::exp2(2 * std::log2(rule.start_f) - ev.front() + dark), rule.start_f, 100};
    s.estimated = !has_metered(take);
  }
  if (!metered) {
    s.exposure = {sums.shutter_s, take.lens().widest_f, take.body().lowest_iso};
    return s;
  }
  plan::Kit kit = take.kit_in_use();
  const double less = std::round(std::log2(sums.shutter_s / metered->shutter_s));
  if (!take.knows_kit() && less >= 1)  // none is set: as many stops as it takes
    kit.filters = {{say("{} stops of filters", format_number(less, 0)), less, false}};
  s.match = plan::match_exposure(*metered, sums.shutter_s, kit);
  s.exposure = {sums.shutter_s, s.match.setting.f_number, s.match.setting.iso};
  s.dials_known = true;
  return s;
}

ramp::Ramp ramp_in_any_case(const Take& take) {
  take.sums();  // too few wishes are an error, a light too long to follow is none
  try {
    return ramp_of(take);
  } catch (const Error&) {
    return ramp_without_light(take);
  }
}

ramp::Ramp ramp_without_light(const Take& take) {
  ramp::Ramp ramp;
  ramp.chain = {standing_of(take, {}).exposure};
  ramp.longest_s = ramp.chain.front().shutter_s;
  return ramp;
}

ramp::Ramp ramp_of(const Take& take) {
  const plan::Sums sums = take.sums();
  if (!knows_light(take)) return ramp_without_light(take);
  const std::vector<double> ev = light_of(take);
  if (!follows(take, ev)) {
    const Standing s = standing_of(take, ev);
    return ramp::ramp_standing(ev, s.exposure, sums.interval_s, s.match.filter_stops);
  }
  if (take.light.method == ramp::Method::AperturePriority)
    return ramp::ramp_automatic(ev, rule_of(take), sums.interval_s, room_of(take),
                                take.body().longest_shutter_s * 1.07);
  return ramp::ramp_by_hand(ev, rule_of(take), sums.interval_s, take.light.clicks);
}

std::vector<ramp::MethodOutcome> methods_of(const Take& take) {
  if (!knows_light(take)) return {};
  const std::vector<double> ev = light_of(take);
  const Seconds interval = take.sums().interval_s;
  const ramp::RampRule rule = rule_of(take);
  const Standing s = standing_of(take, ev);
  return ramp::compare(ramp::ramp_by_hand(ev, rule, interval, take.light.clicks), s.exposure,
                       s.match.filter_stops, rule, interval, room_of(take));
}

std::vector<ramp::Reading> readings_of(const std::vector<media::Frame>& frames, const std::string& zone) {
  std::vector<ramp::Reading> list;
  for (const media::Frame& f : frames) {
    const auto stops = media::exposure_stops(f.info());
    if (!stops || !f.info().captured) continue;
    const std::string wall = format_iso(Instant(f.info().captured->time_since_epoch()), "UTC").substr(0, 19);
    list.push_back({parse_wall_time(wall, zone), -*stops});
  }
  if (list.size() < 2)
    throw bad_input(say("Fewer than two frames say when and how they were exposed."),
                    say("Choose the folder of a take whose frames still have their metadata."));
  std::stable_sort(list.begin(), list.end(),
                   [](const ramp::Reading& a, const ramp::Reading& b) { return a.at < b.at; });
  return list;
}

std::vector<ramp::Reading> curve_of(const Take& take, const ramp::Ramp& ramp) {
  const Seconds interval = take.sums().interval_s;
  const auto stride = std::max<size_t>(1, static_cast<size_t>(60 / interval));
  std::vector<ramp::Reading> list;
  for (size_t n = 0; n < ramp.ev.size(); n += stride)
    list.push_back({later(take.start, static_cast<double>(n) * interval), ramp.ev[n]});
  return list;
}

sky::Optics optics_of(const Take& take) {
  return {take.lens().focal_mm, take.body().sensor_width_mm, take.body().sensor_height_mm,
          take.film.size.shape()};
}

}  // namespace askcount::forecast
