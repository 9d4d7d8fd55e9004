// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/shoot.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "image/tone.h"
#include "simulate/scene.h"

namespace askcount::simulate {
namespace {

constexpr image::Size kMeterSize = {96, 64};

double metered(const Scene& scene, Instant at) {
  const image::Linear32 p = scene.seen(at, 0.01);
  const size_t below = p.rgb.size() * 6 / 10 / 3 * 3;
  double sum = 0;
  for (size_t i = below; i < p.rgb.size(); i += 3)
    sum += static_cast<double>(image::luminance(p.rgb[i], p.rgb[i + 1], p.rgb[i + 2]));
  return std::log2(std::max(1e-6, sum / (static_cast<double>(p.rgb.size() - below) / 3)));
}

std::vector<double> ev_of(const std::vector<double>& light) {
  std::vector<double> ev = light;
  for (double& e : ev) e -= ramp::light_stops_of_ev(0);
  return ev;
}

/// The least stops of at most two filters that take this much away; all there is where none do.
double stops_on(const std::vector<double>& filters, double too_bright) {
  double best = 0;
  const auto better = [&](double stops) {
    const bool reaches = stops >= too_bright, reached = best >= too_bright;
    if (reaches ? !reached || stops < best : !reached && stops > best) best = stops;
  };
  for (size_t i = 0; i < filters.size(); ++i) {
    better(filters[i]);
    for (size_t k = i + 1; k < filters.size(); ++k) better(filters[i] + filters[k]);
  }
  return best;
}

/// The exposures of its own hand, which meters the scene: by the order's method. Where a standing shutter
/// lets in too much, `filter_stops` becomes what it puts on against that of what comes along, and what is
/// still too much is taken off the shutter.
ramp::Following own_hand(const ShootOrder& order, const std::vector<double>& light, double& filter_stops) {
  constexpr double kHalfClick = 1.0 / 6;
  ramp::RampRule rule = order.rule;
  rule.longest_shutter_s = order.shutter_s;
  rule.filter_stops = order.filter_stops;
  if (order.method == ramp::Method::Hand) return ramp::follow(light, rule);
  ramp::Following f;
  if (light.empty()) return f;
  if (order.method == ramp::Method::Fixed) {
    rule.shortest_shutter_s = order.shutter_s;  // it stands; the other dials make up for it
    const ramp::Exposure dials = ramp::start_exposure(light.front(), rule);
    f.chain.assign(light.size(), {order.shutter_s, dials.f_number, dials.iso});
    double over =
        ramp::meter_stops(light.front(), f.chain.front()) - ramp::band_at(rule, light.front()).high_stops;
    if (over > kHalfClick) filter_stops = stops_on(order.own_filters, over), over -= filter_stops;
    if (over > kHalfClick)
      for (ramp::Exposure& e : f.chain) e.shutter_s *= std::exp2(-std::ceil(over * 3) / 3);
  } else {
    f.chain = ramp::ramp_automatic(ev_of(light), rule, order.program.interval_s, order.program.interval_s,
                                   exact_shutter(order.body.longest_shutter_s))
                  .chain;
  }
  return f;
}

SceneSetting scene_of(const ShootOrder& order) {
  return {kMeterSize, order.place, order.aim, 0, order.haste};
}

void check_count(long long count) {
  if (count > kMostShots)
    throw bad_input(fmt::format("The stand-in shoots no more than {} shots, not {}.", kMostShots, count),
                    "Ask for a shorter clip.");
}

std::vector<Instant> moments_of(const ShootOrder& order) {
  check_count(order.program.count);
  return plan::Schedule({order.start, order.zone, order.program.interval_s, order.program.count, order.work})
      .moments();
}

}  // namespace

std::vector<double> metered_light(const std::string& scene, SceneSetting setting,
                                  const std::vector<Instant>& moments) {
  setting.size = kMeterSize;
  const std::unique_ptr<Scene> small = make_scene(scene, setting);
  std::vector<double> light;
  light.reserve(moments.size());
  for (const Instant at : moments) light.push_back(metered(*small, at));
  return light;
}

std::vector<double> metered_light(const std::string& scene, Instant start, Seconds interval_s, long long n) {
  std::vector<Instant> moments;
  for (long long i = 0; i < n; ++i) moments.push_back(later(start, static_cast<double>(i) * interval_s));
  return metered_light(scene, {}, moments);
}

RigSetting rig_for(const ShootOrder& order) {
  check_count(order.program.count);
  RigSetting s;
  s.scene = order.scene;
  s.place = order.place;
  s.aim = order.aim;
  s.haste = order.haste;
  s.start = order.start;
  s.zone = order.zone;
  s.work = order.work;
  s.size = order.size;
  s.timer = order.program.timer;
  s.delay_s = order.program.delay_s;
  s.hold_s = order.program.hold_s;
  s.time_s = order.program.setting_s;
  s.count = order.program.count;
  s.filter_stops = order.filter_stops;
  ramp::Following hand{order.chain, {}, order.filters_off};
  if (hand.chain.empty())
    hand = own_hand(order, metered_light(order.scene, scene_of(order), moments_of(order)), s.filter_stops);
  s.light_stops = order.light_stops;
  s.rule = order.rule;
  if (!hand.chain.empty()) {
    s.exposure = hand.chain.front();
    s.clicks = ramp::clicks_along(hand.chain);
    for (const ramp::Exposure& e : hand.chain) {
      s.rule.longest_shutter_s = std::max(s.rule.longest_shutter_s, e.shutter_s);
      s.rule.shortest_shutter_s = std::min(s.rule.shortest_shutter_s, e.shutter_s);
      s.rule.highest_iso = std::max(s.rule.highest_iso, e.iso);
      s.rule.start_f = std::max(s.rule.start_f, e.f_number);
    }
  }
  s.filters_off = hand.filters_off.value_or(-1);
  s.bulb = order.program.bulb;
  s.brackets = order.shot.brackets;
  s.bracket_stops = order.shot.bracket_stops;
  s.dark_frames = order.shot.dark_frames;
  s.raw = order.raw;
  s.body = order.body;
  s.body.buffer_mb = 0;  // never full
  s.camera = order.camera;
  s.card_gb = 1e9;
  s.external_power = true;
  s.first_number = order.first_number;
  s.test_shots = order.test_shots;
  s.markers = order.markers;
  s.card = order.card;
  return s;
}

ShootOutcome shoot(const ShootOrder& order, const std::function<void(const ShotLanded&)>& landed,
                   const std::stop_token& stop) {
  check_empty_card(order.card);
  return shoot(rig_for(order), landed, stop);
}

ShootOutcome shoot(const RigSetting& setting, const std::function<void(const ShotLanded&)>& landed,
                   const std::stop_token& stop) {
  check_empty_card(setting.card);
  Rig rig(setting);
  long long done = 0, total = 0;
  const RigOutcome o = rig.run(
      [&](const RigEvent& e) {
        total = e.total;
        if (e.kind != RigEvent::Kind::Shot) return;
        done = e.done;
        if (landed) landed({setting.card / e.files.back(), e.index, e.done, e.total, e.exposure, e.start});
      },
      stop);
  if (stop.stop_requested())
    throw cancelled(fmt::format("Stopped after {} of {} shots; they stay on the card.", done, total));
  return {o.frames, o.missed, o.folder, o.truth};
}

}  // namespace askcount::simulate
