#include "orders/light.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"

namespace askcount::orders {

using take::Take;

Seconds room_of(const Take& take) {
  const plan::Sums sums = take.sums();
  return std::max(1e-3, sums.interval_s - take.body().writing_s - take.light.turning_s - take.shot.lock_s);
}

ramp::RampRule rule_of(const Take& take) {
  ramp::RampRule rule = take.light.rule;
  const Seconds room = room_of(take);
  rule.longest_shutter_s = rule.longest_shutter_s > 0 ? std::min(rule.longest_shutter_s, room)
                                                      : std::min(room, take.body().longest_shutter_s * 1.07);
  rule.shortest_shutter_s = std::min(std::max(rule.shortest_shutter_s, take.body().shortest_shutter_s / 1.03),
                                     rule.longest_shutter_s);
  rule.widest_f = std::max(rule.widest_f, take.lens().widest_f);
  rule.start_f = std::clamp(rule.start_f, rule.widest_f, std::max(rule.widest_f, take.lens().smallest_f));
  rule.lowest_iso = std::max(rule.lowest_iso, take.body().lowest_iso);
  rule.highest_iso = std::max(rule.lowest_iso, std::min(rule.highest_iso, take.body().highest_iso));
  return rule;
}

ramp::Ramp ramp_of(const Take& take) {
  const plan::Sums sums = take.sums();
  const auto ev = ramp::light_along(take.light.source, take.place, take.start, sums.interval_s,
                                    sums.frames + sums.extra_shots);
  return ramp::ramp_by_hand(ev, rule_of(take), sums.interval_s, take.light.clicks);
}

std::vector<ramp::Reading> readings_of(const std::vector<source::Frame>& frames, const std::string& zone) {
  std::vector<ramp::Reading> list;
  for (const source::Frame& f : frames) {
    const auto stops = source::exposure_stops(f.info());
    if (!stops || !f.info().captured) continue;
    const std::string wall = format_iso(Instant(f.info().captured->time_since_epoch()), "UTC").substr(0, 19);
    list.push_back({parse_wall_time(wall, zone), -*stops});
  }
  if (list.size() < 2)
    throw bad_input("Fewer than two frames say when and how they were exposed.",
                    "Choose the folder of a take whose frames still have their metadata.");
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

double f_number_of(const Take& take, const plan::Sums& sums) {
  return take.metered ? plan::match_exposure(*take.metered, sums.shutter_s, take.kit).setting.f_number
                      : take.lens().widest_f;
}

}  // namespace askcount::orders
