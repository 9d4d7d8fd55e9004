// SPDX-License-Identifier: GPL-3.0-or-later
// Ramps over made-up lights and by made-up rules, held against those that were kept. What a ramp is to be is
// tested in ramp_test.cpp.
#include <cmath>

#include "dice.h"
#include "kept.h"
#include "ramp/light.h"
#include "ramp/ramp.h"
#include "support.h"

namespace askcount::ramp {
namespace {

using test::Dice;

/// A light in EV that rises or falls, once or twice, with clouds in it.
std::vector<double> light_of(Dice& dice, size_t frames) {
  std::vector<double> ev(frames);
  const double from = dice.between(-5, 14), by = dice.between(-14, 14), middle = dice.unit(),
               width = dice.between(0.05, 0.4), cloud = dice.chance(0.3) ? dice.between(0.2, 1.5) : 0;
  for (size_t n = 0; n < frames; ++n) {
    const double share = static_cast<double>(n) / static_cast<double>(frames);
    ev[n] = from + by / (1 + std::exp(-(share - middle) / width * 4)) + cloud * std::sin(9 * share) +
            0.02 * dice.normal();
  }
  return ev;
}

RampRule rule_of(Dice& dice) {
  RampRule rule;
  rule.longest_shutter_s = dice.one_of<double>({1.0 / 64, 1, 2.5, 16, 25});
  rule.widest_f = dice.one_of<double>({1.4, 2.8, 4});
  rule.start_f = rule.widest_f * std::exp2(dice.whole(0, 9) / 6.0);
  rule.lowest_iso = dice.one_of<double>({50, 100, 200});
  rule.highest_iso = rule.lowest_iso * std::exp2(dice.whole(0, 21) / 3.0);
  rule.high_stops = dice.between(-0.3, 0.5);
  rule.low_stops = rule.high_stops - dice.between(0.4, 1.4);
  rule.frames_apart = dice.whole(1, 12);
  rule.frames_apart_late = dice.whole(1, rule.frames_apart);
  rule.night_stops = dice.between(0, 3);
  if (dice.chance(0.3)) rule.filter_stops = dice.whole(1, 10);
  if (dice.chance(0.4)) rule.order = {Dial::Iso, Dial::Shutter, Dial::Aperture};
  if (dice.chance(0.2)) rule.order = {Dial::Aperture, Dial::Iso, Dial::Shutter};
  return rule;
}

Json json_of(const Exposure& e) {
  return {e.shutter_s, e.f_number, e.iso};
}

/// Every eleventh exposure, and all that is said of them.
Json json_of(const Ramp& ramp) {
  Json chain = Json::array(), steps = Json::array(), outrun = Json::array();
  for (size_t n = 0; n < ramp.chain.size(); n += 11)
    chain.push_back({json_of(ramp.chain[n]), ramp.meter[n], ramp.ev[n]});
  for (const RampStep& s : ramp.steps)
    steps.push_back({s.click.frame, dial_word(s.click.dial), s.click.brighter, s.meter_after, s.late,
                     s.rushed, step_words(s)});
  for (const Outrun& o : ramp.outrun) outrun.push_back({o.from, o.to, o.worst_stops});
  return {{"chain", chain},
          {"steps", steps},
          {"outrun", outrun},
          {"filters_off", ramp.filters_off.value_or(-1)},
          {"feasible", ramp.feasible},
          {"frame", ramp.worst_stops_per_frame},
          {"minute", ramp.worst_stops_per_minute},
          {"longest", ramp.longest_s}};
}

TEST(KeptRamp, HandsMethodsAndJudgementsOfMadeUpLights) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 70; ++seed) {
    Dice dice(seed);
    const auto frames = static_cast<size_t>(dice.whole(20, 420));
    const std::vector<double> ev = light_of(dice, frames);
    const RampRule rule = rule_of(dice);
    const double interval_s = dice.one_of<double>({2, 6, 12, 30}),
                 room_s = interval_s * dice.between(0.5, 0.9);
    const Ramp hand = ramp_by_hand(ev, rule, interval_s);
    const auto clock = [](long long frame) { return "frame " + std::to_string(frame); };
    Json one = {
        {"hand", json_of(hand)},
        {"judged", to_json(judge(hand, {rule, interval_s, room_s, dice.between(0.5, 8), false, clock}))}};
    const Exposure standing = dice.chance(0.5) ? hand.chain.front() : hand.chain[frames / 2];
    for (const MethodOutcome& s : compare(hand, standing, rule.filter_stops, rule, interval_s, room_s))
      one["methods"].push_back({method_word(s.method), s.text, s.works, s.first_clipped, s.first_drowned,
                                s.shutter_outgrows, s.flicker_stops, s.longest_s});
    if (seed % 4 == 0) {
      one["automatic"] = json_of(ramp_automatic(ev, rule, interval_s, room_s, dice.between(0.1, 60)));
      one["standing"] = json_of(ramp_standing(ev, standing, interval_s, rule.filter_stops));
      // Half of the clicks, a few frames later.
      std::vector<Click> moved;
      for (size_t i = 0; i < hand.steps.size(); i += 2) {
        moved.push_back(hand.steps[i].click);
        moved.back().frame =
            std::min(moved.back().frame + dice.whole(0, 7), static_cast<long long>(frames) - 1);
      }
      if (!moved.empty()) {
        const Ramp by_wish = ramp_by_hand(ev, rule, interval_s, moved);
        one["moved"] = json_of(by_wish);
        one["moved_judged"] = to_json(judge(by_wish, {rule, interval_s, room_s, 2, true, clock}));
      }
    }
    kept.push_back(one);
  }
  test::hold(kept, "core/ramp");
}

TEST(KeptRamp, LightsOfMadeUpPlacesAndMeters) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 130; ++seed) {
    Dice dice(seed);
    LightSource source;
    source.cover =
        dice.one_of<sky::Cover>({sky::Cover::Clear, sky::Cover::Thin, sky::Cover::Clouded, sky::Cover::Dark});
    source.town_lux = dice.chance(0.3) ? dice.between(0, 2) : 0;
    source.sky_mag = dice.between(17, 22);
    source.shows = dice.one_of<sky::Shows>(
        {sky::Shows::Ground, sky::Shows::Half, sky::Shows::LitSky, sky::Shows::AwayFromSun});
    sky::Place place;
    place.latitude_deg = dice.between(-65, 70);
    place.longitude_deg = dice.between(-180, 180);
    const Instant start = Instant(std::chrono::seconds(1767225600 + dice.whole(0, 365 * 86400)));
    const double interval_s = dice.one_of<double>({10, 60, 300});
    if (dice.chance(0.4))
      source.anchor = Reading{start + std::chrono::seconds(dice.whole(0, 7200)), dice.between(-3, 14)};
    if (dice.chance(0.4))
      for (int i = 0; i < 4; ++i)
        source.readings.push_back(
            {start + std::chrono::seconds(600 + 1700 * i), 12 - 2.0 * i + dice.normal()});
    const auto ev =
        light_along(source, place, start, interval_s, 60, {dice.between(5, 80), dice.between(0, 360)});
    Json values = Json::array();
    for (size_t n = 0; n < ev.size(); n += 4) values.push_back(ev[n]);
    kept.push_back(values);
  }
  test::hold(kept, "core/lights");
}

}  // namespace
}  // namespace askcount::ramp
