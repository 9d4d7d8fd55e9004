// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/light.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "plan/budgets.h"
#include "plan/flash.h"
#include "plan/subject.h"

namespace askcount::forecast {

using take::Take;

Seconds room_of(const Take& take) {
  return std::max(1e-3, schedule_of(take).interval_s() - take.body().writing_s - take.lock_s());
}

plan::Schedule schedule_of(const Take& take) {
  const plan::Sums sums = take.sums();
  return take.schedule(timer::interval_on(timer_of(take), sums, take.body().longest_shutter_s),
                       plan::shots_of(sums));
}

plan::Timer timer_of(const Take& take) {
  plan::Timer timer = take.timer_model();
  if (!take.knows_timer()) timer.smallest_step_s = std::min(0.1, timer.smallest_step_s);
  return timer;
}

namespace {

/// The frames with which another day begins.
std::vector<long long> days_begin(const Take& take) {
  std::vector<long long> list;
  if (take.work.always()) return list;
  const plan::Schedule schedule = schedule_of(take);
  for (const plan::Schedule::Part& day : schedule.parts())
    if (day.first > 0) list.push_back(day.first);
  return list;
}

}  // namespace

namespace {

/// Aperture and ISO that the dials begin with: as said, else as metered; nothing where neither is.
std::optional<double> first_f(const Take& take) {
  if (take.light.f_number) return exact_f_number(*take.light.f_number);
  if (take.metered) return exact_f_number(take.metered->f_number);
  return {};
}
std::optional<double> first_iso(const Take& take) {
  if (take.light.iso) return exact_iso(*take.light.iso);
  if (take.metered) return exact_iso(take.metered->iso);
  return {};
}

/// The metered light at the dials that were said.
plan::Metered at_said_dials(const Take& take, plan::Metered metered) {
  if (!take.light.f_number && !take.light.iso) return metered;
  const double f = first_f(take).value_or(metered.f_number), i = first_iso(take).value_or(metered.iso);
  metered.shutter_s *= f * f / (metered.f_number * metered.f_number) * metered.iso / i;
  metered.f_number = f;
  metered.iso = i;
  return metered;
}

/// The kit that a wished shutter is reached with: where none is set, with as many stops of filters as it
/// takes.
plan::Kit kit_for(const Take& take, const plan::Sums& sums, const plan::Metered& metered) {
  plan::Kit kit = take.kit_in_use();
  const double less = std::round(std::log2(sums.shutter_s / metered.shutter_s));
  if (!take.knows_kit() && less >= 1 && !sums.trail_assumed)
    kit.filters = {{say("{} stops of filters", format_number(less, 0)), less, false}};
  return kit;
}

/// Whether somebody has metered by night: that reading says how a night is to look.
bool metered_by_night(const Take& take) {
  constexpr double kNight_ev = 1;
  const auto& m = take.metered;
  return m && ramp::ev_of_exposure(m->shutter_s, m->f_number, m->iso) < kNight_ev;
}

}  // namespace

ramp::RampRule rule_of(const Take& take) {
  ramp::RampRule rule = take.light.rule;
  const plan::Sums sums = take.sums();
  const Seconds room = room_of(take);
  // What was wished is the longest, in exact thirds as dials have them; where nothing is set a hand gets its
  // time too.
  Seconds longest =
      std::min({exact_shutter(sums.shutter_s), room, exact_shutter(take.body().longest_shutter_s)});
  if (sums.trail_assumed) longest = std::min(longest, std::max(1e-3, room - take.light.turning_s));
  if (rule.longest_shutter_s > 0) longest = std::min(longest, exact_shutter(rule.longest_shutter_s));
  rule.longest_shutter_s = longest;
  rule.shortest_shutter_s = std::min(std::max(rule.shortest_shutter_s, take.body().shortest_shutter_s / 1.03),
                                     rule.longest_shutter_s);
  rule.widest_f = std::max(rule.widest_f, take.lens().widest_f);
  const double smallest_f = std::max(rule.widest_f, take.lens().smallest_f);
  if (const auto f = first_f(take)) {
    rule.widest_f = std::min(rule.widest_f, std::max(*f, take.lens().widest_f));
    rule.start_f = *f;
  }
  rule.start_f = std::clamp(rule.start_f, rule.widest_f, smallest_f);
  rule.lowest_iso = std::max(rule.lowest_iso, take.body().lowest_iso);
  rule.highest_iso = std::max(rule.lowest_iso, std::min(rule.highest_iso, take.body().highest_iso));
  const auto iso = first_iso(take);
  if (iso) rule.highest_iso = std::max(rule.highest_iso, *iso);
  // A camera that sets its shutter itself leaves aperture and ISO where the person put them.
  if (take.light.method == ramp::Method::AperturePriority && iso) rule.lowest_iso = *iso;
  if (take.light.method == ramp::Method::Hand && (first_f(take) || iso))
    rule.begin = ramp::Exposure{take.metered ? exact_shutter(take.metered->shutter_s) : longest, rule.start_f,
                                std::clamp(iso.value_or(rule.lowest_iso), rule.lowest_iso, rule.highest_iso)};
  if (metered_by_night(take)) rule.night_stops = 0;
  const OnTheLens lens = on_the_lens(take);
  rule.filter_stops = lens.stops;
  if (lens.begin) {
    rule.begin = lens.begin;
    rule.begin->shutter_s = std::min(longest, lens.begin->shutter_s);
    rule.start_f = std::clamp(lens.begin->f_number, rule.widest_f, smallest_f);
  }
  return rule;
}

OnTheLens on_the_lens(const Take& take) {
  OnTheLens lens;
  lens.filters = take.light.filters;
  for (const plan::Filter& f : take.kit.filters)
    if (std::count(lens.filters.begin(), lens.filters.end(), f.name) > 0) lens.stops += f.stops;
  const plan::Sums sums = take.sums();
  if (!lens.filters.empty() || take.light.bare || take.light.method != ramp::Method::Hand || !take.metered ||
      metered_by_night(take) || sums.trail_assumed || take.lamp)
    return lens;
  const plan::Metered metered = at_said_dials(take, *take.metered);
  const plan::ExposureMatch match =
      plan::match_exposure(metered, sums.shutter_s, kit_for(take, sums, metered));
  if (match.filters.empty() || match.missing_stops != 0) return lens;
  lens.filters = match.filters;
  lens.stops = match.filter_stops;
  lens.begin = ramp::Exposure{exact_shutter(sums.shutter_s), exact_f_number(match.setting.f_number),
                              exact_iso(match.setting.iso)};
  return lens;
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
  ramp::LightSource source = take.light.source;
  if (!source.anchor && take.metered)
    source.anchor = {
        take.start, ramp::ev_of_exposure(take.metered->shutter_s, take.metered->f_number, take.metered->iso)};
  const sky::Aim& aim = take.light.move.from;
  const plan::Schedule schedule = schedule_of(take);
  if (schedule.shots() > 200000)
    throw bad_input(say("The light of {} frames is too much to follow.", format_count(schedule.shots())),
                    say("Ask for fewer than 200,000."));
  return ramp::light_at(source, take.place, schedule.moments(),
                        {std::max(10.0, aim.tilt_deg), aim.bearing_deg});
}

bool follows(const Take& take, const std::vector<double>& ev) {
  constexpr double kSteady_stops = 1;
  if (take.light.method == ramp::Method::Fixed || take.lamp || ev.empty()) return false;
  if (!take.light.clicks.empty()) return true;  // moved by hand
  const auto [low, high] = std::minmax_element(ev.begin(), ev.end());
  return *high - *low >= kSteady_stops;
}

namespace {

/// Whether the shutter only follows from a trail that nobody asked for. (Stars have one of their own.)
bool nobody_asked(const Take& take) {
  const auto all = [&take](bool plan::SubjectKind::*trait) { return plan::all_kinds(take.subject, trait); };
  return take.sums().trail_assumed && !all(&plan::SubjectKind::points_of_light) &&
         !all(&plan::SubjectKind::trails);
}

/// A shutter that nobody asked for, and that the light does not allow with the filters that come along and
/// the aperture as it was metered: the nearest that it does allow, with neither.
void fall_back(Standing& s, const Take& take, const plan::Metered& metered) {
  constexpr double kClosed = 1.2;  // half a stop further than it was metered with
  const bool closed = s.match.setting.f_number > metered.f_number * kClosed;
  if (s.match.missing_stops == 0 && !closed) return;
  plan::Metered set = metered;
  const Seconds longest = std::min(room_of(take), take.body().longest_shutter_s);
  if (s.match.missing_stops < 0) {  // too dark: as bright as the dials go, and as long as there is room
    set = s.match.setting;
    set.shutter_s = std::min(longest, s.match.nearest_shutter_s);
  } else {  // too bright: ISO down, which lengthens the shutter, and no further
    const double iso = std::min(metered.iso, std::max(take.body().lowest_iso, take.light.iso.value_or(0)));
    set.shutter_s = std::min(longest, metered.shutter_s * metered.iso / iso);
    set.iso = metered.iso * metered.shutter_s / set.shutter_s;
  }
  // As dials have it: in whole thirds of a stop, and none longer than there is room for.
  const double thirds = std::log2(exact_shutter(set.shutter_s)) * 3;
  set.shutter_s = std::exp2(std::round(thirds) / 3);
  if (set.shutter_s > longest) set.shutter_s = std::exp2(std::floor(std::log2(longest) * 3 + 1e-6) / 3);
  set.shutter_s = std::max(set.shutter_s, take.body().shortest_shutter_s);
  s.offered = s.match;
  s.match = {};
  s.match.stops = std::log2(set.shutter_s / metered.shutter_s);
  s.match.setting = set;
  s.match.nearest_shutter_s = set.shutter_s;
  const double left = ramp::stops_of({set.shutter_s, set.f_number, set.iso}) -
                      ramp::stops_of({metered.shutter_s, metered.f_number, metered.iso});
  s.match.missing_stops = std::abs(left) < 0.2 ? 0 : left;
  s.exposure = {set.shutter_s, set.f_number, set.iso};
}

}  // namespace

Standing standing_of(const Take& take, const std::vector<double>& ev) {
  const plan::Sums sums = take.sums();
  Standing s;
  if (const plan::Lamp* flash = flash_of(take); flash && flash->guide_m > 0) {
    if (take.metered) {  // tested, and found right
      const Seconds shutter = sums.trail_assumed ? take.metered->shutter_s : sums.shutter_s;
      s.exposure = {shutter, take.metered->f_number, take.metered->iso};
      s.match.setting = {shutter, take.metered->f_number, take.metered->iso};
      s.dials_known = true;
      return s;
    }
    const plan::FlashSetting set =
        plan::flash_setting(flash->guide_m, take.focus_m(), take.body(), take.lens());
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
  metered = at_said_dials(take, *metered);
  s.match = plan::match_exposure(*metered, sums.shutter_s, kit_for(take, sums, *metered));
  s.exposure = {sums.shutter_s, s.match.setting.f_number, s.match.setting.iso};
  s.dials_known = true;
  if (nobody_asked(take)) fall_back(s, take, *metered);
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
                                exact_shutter(take.body().longest_shutter_s));
  return ramp::ramp_by_hand(ev, rule_of(take), sums.interval_s, take.light.clicks, days_begin(take));
}

std::vector<ramp::MethodOutcome> methods_of(const Take& take) {
  if (!knows_light(take)) return {};
  const std::vector<double> ev = light_of(take);
  const Seconds interval = take.sums().interval_s;
  const ramp::RampRule rule = rule_of(take);
  const Standing s = standing_of(take, ev);
  return ramp::compare(ramp::ramp_by_hand(ev, rule, interval, take.light.clicks, days_begin(take)),
                       s.exposure, s.match.filter_stops, rule, interval, room_of(take));
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
  const plan::Schedule schedule = schedule_of(take);
  const auto stride = std::max<size_t>(1, static_cast<size_t>(60 / schedule.interval_s()));
  std::vector<ramp::Reading> list;
  for (size_t n = 0; n < ramp.ev.size(); n += stride)
    list.push_back({schedule.at(static_cast<long long>(n)), ramp.ev[n]});
  return list;
}

sky::Optics optics_of(const Take& take) {
  return {take.lens().focal_mm, take.body().sensor_width_mm, take.body().sensor_height_mm,
          take.film.size.shape()};
}

}  // namespace askcount::forecast
