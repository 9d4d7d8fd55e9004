// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/shoot.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

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

/// The exposures of its own hand, which meters the scene: by the order's method. Where a standing shutter
/// lets in too much, `filter_stops` becomes what it puts on against that.
ramp::Following own_hand(const ShootOrder& order, const std::vector<double>& light, double& filter_stops) {
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
    filter_stops = std::max(0.0, std::round(ramp::meter_stops(light.front(), f.chain.front()) -
                                            ramp::band_at(rule, light.front()).high_stops));
  } else {
    f.chain = ramp::ramp_automatic(ev_of(light), rule, order.program.interval_s, order.program.interval_s,
                                   order.body.longest_shutter_s)
                  .chain;
  }
  return f;
}

std::vector<double> light_of(const ShootOrder& order) {
  if (order.program.count > kMostShots)
    throw bad_input(
        fmt::format("The stand-in shoots no more than {} shots, not {}.", kMostShots, order.program.count),
        "Ask for a shorter clip.");
  return metered_light(order.scene, order.start, order.program.interval_s, order.program.count);
}

}  // namespace

std::vector<double> metered_light(const std::string& scene, Instant start, Seconds interval_s, long long n) {
  const std::unique_ptr<Scene> small = make_scene(scene, {kMeterSize});
  std::vector<double> light;
  light.reserve(static_cast<size_t>(std::max(0LL, n)));
  for (long long i = 0; i < n; ++i)
    light.push_back(metered(*small, later(start, static_cast<double>(i) * interval_s)));
  return light;
}

RigSetting rig_for(const ShootOrder& order) {
  RigSetting s;
  s.scene = order.scene;
  s.start = order.start;
  s.zone = order.zone;
  s.size = order.size;
  s.timer = order.program.timer;
  s.delay_s = order.program.delay_s;
  s.hold_s = order.program.hold_s;
  s.time_s = order.program.setting_s;
  s.count = order.program.count;
  s.filter_stops = order.filter_stops;
  ramp::Following hand{order.chain, {}, order.filters_off};
  if (hand.chain.empty()) hand = own_hand(order, light_of(order), s.filter_stops);
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
  Rig rig(rig_for(order));
  long long done = 0, total = 0;
  const RigOutcome o = rig.run(
      [&](const RigEvent& e) {
        total = e.total;
        if (e.kind != RigEvent::Kind::Shot) return;
        done = e.done;
        if (landed) landed({order.card / e.files.back(), e.index, e.done, e.total, e.exposure, e.start});
      },
      stop);
  if (stop.stop_requested())
    throw cancelled(fmt::format("Stopped after {} of {} shots; they stay on the card.", done, total));
  return {o.frames, o.missed, o.folder, o.truth};
}

}  // namespace askcount::simulate
