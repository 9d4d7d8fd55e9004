// SPDX-License-Identifier: GPL-3.0-or-later
// Everything that is said of made-up takes (plan, light, program, checklist, sheet, journal), held against
// what was kept. What is right is tested in planning_test.cpp, speech_test.cpp, wake_test.cpp and others.
#include <cmath>

#include "advice/checklist.h"
#include "advice/film_advice.h"
#include "advice/light_advice.h"
#include "advice/next_change.h"
#include "advice/plan_advice.h"
#include "advice/shoot_advice.h"
#include "advice/wake.h"
#include "advice/when.h"
#include "dice.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "forecast/night.h"
#include "forecast/place_picture.h"
#include "forecast/trial.h"
#include "journal/hand.h"
#include "journal/rehearsal.h"
#include "kept.h"
#include "sky/panorama.h"
#include "support.h"

namespace askcount::advice {
namespace {

using plan::Slot;
using test::Dice;

take::Take take_of(Dice& dice) {
  take::Take t;
  const plan::Kit demo = plan::demo_kit();
  t.name = "Made up";
  t.subject = dice.one_of<std::string>({"clouds over the quay", "stars", "star trails", "plants growing",
                                        "people in a square", "traffic", "a building site", "day into night",
                                        "waves on rocks", "boats", "a snail"});
  if (dice.chance(0.85)) {
    t.place.name = "Somewhere";
    t.place.latitude_deg = dice.between(-50, 66);
    t.place.longitude_deg = dice.between(-120, 120);
    t.place.zone = dice.one_of<std::string>({"UTC", "Europe/London", "Pacific/Auckland"});
    if (dice.chance(0.9))
      t.start = Instant(std::chrono::minutes(29454480 + dice.whole(0, 365) * 1440 + dice.whole(0, 1439)));
  }
  t.wish(Slot::Fps, dice.one_of<double>({24, 25, 30}));
  t.wish(Slot::Interval, dice.one_of<double>({1, 4, 8, 20, 30, 600}));
  t.wish(Slot::Frames, dice.whole(30, 900));
  if (dice.chance(0.4)) t.wish(Slot::FieldCrossing, dice.between(10, 4000));
  if (dice.chance(0.4)) t.wish(Slot::Shutter, dice.one_of<double>({1.0 / 100, 0.5, 2, 15, 25}));
  if (dice.chance(0.7)) t.kit = demo;
  if (dice.chance(0.3)) t.shot.brackets = 3, t.shot.bracket_stops = 2;
  t.shot.dark_frames = dice.chance(0.15);
  t.spare = dice.chance(0.2) ? dice.whole(1, 10) : 0;
  if (dice.chance(0.3)) t.work = {7, 18, dice.whole(5, 7)};
  t.light.move.from = {dice.between(0, 360), dice.between(0, 40), 0};
  t.light.move.to =
      dice.chance(0.3) ? sky::Aim{dice.between(0, 360), dice.between(0, 40), 0} : t.light.move.from;
  t.light.subject = dice.one_of<sky::Body>({sky::Body::Sun, sky::Body::Moon, sky::Body::Core});
  if (dice.chance(0.4))
    for (int i = 0; i < 4; ++i) sky::raise(t.light.horizon, dice.between(0, 360), dice.between(0, 12));
  t.light.source.cover = dice.one_of<sky::Cover>({sky::Cover::Clear, sky::Cover::Thin, sky::Cover::Clouded});
  t.light.source.town_lux = dice.chance(0.3) ? 1 : 0;
  t.light.method = dice.one_of<ramp::Method>(
      {ramp::Method::Hand, ramp::Method::Hand, ramp::Method::Fixed, ramp::Method::AperturePriority});
  if (dice.chance(0.3)) t.light.filters = {demo.filters.front().name};
  t.light.weather.humidity = dice.chance(0.5) ? std::optional(dice.between(0.4, 1)) : std::nullopt;
  t.light.weather.wind_m_s = dice.chance(0.4) ? dice.between(0, 18) : 0;
  t.light.weather.tall_tripod = dice.chance(0.3);
  if (dice.chance(0.4)) t.metered = plan::Metered{std::exp2(dice.whole(-30, 0) / 3.0), 8, 100};
  t.temperature_c = dice.between(-15, 28);
  t.external_power = dice.chance(0.3);
  t.lamp = dice.chance(0.15);
  t.disk_free_gb = dice.one_of<double>({0, 5, 200});
  t.focus.declination_deg = dice.between(-30, 70);
  t.focus.magnification = dice.chance(0.2) ? dice.between(0.2, 2) : 0;
  t.focus.grows_mm_per_hour = dice.chance(0.2) ? dice.between(0.05, 3) : 0;
  if (dice.chance(0.2)) t.slider = {dice.between(0.2, 2), 0.5, dice.between(0.5, 6)};
  if (t.knows_kit()) t.timer = dice.one_of<plan::Timer>(plan::timers_of(t.kit)).name;
  t.start_by =
      dice.one_of<timer::StartBy>({timer::StartBy::Clock, timer::StartBy::Delay, timer::StartBy::Now});
  t.endless = dice.chance(0.3);
  if (dice.chance(0.2)) t.again = {{"dew", 2}, {"bump", 1}};
  return t;
}

Json json_of(const ramp::Exposure& e) {
  return {e.shutter_s, e.f_number, e.iso};
}

TEST(KeptAdvice, OfMadeUpTakes) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 60; ++seed) {
    Dice dice(seed);
    const take::Take t = take_of(dice);
    const ramp::Ramp ramp = forecast::ramp_in_any_case(t);
    const forecast::ExposurePlan exposure = forecast::exposure_of(t, ramp);
    Json one;
    one["plan"] = to_json(plan_advice(t, exposure));
    one["light"] = to_json(light_advice(t, ramp));
    one["night"] = forecast::is_night(t);
    one["exposure"] = {exposure.follows,
                       exposure.dials_known,
                       exposure.keeps_up,
                       exposure.estimated,
                       json_of(exposure.first),
                       json_of(exposure.last),
                       exposure.shortest_s,
                       exposure.longest_s,
                       exposure.gap_s,
                       exposure.field_s,
                       forecast::shutter_words(exposure),
                       forecast::dials_words(exposure),
                       forecast::filters_words(exposure),
                       exposure.filters_off.value_or(-1)};
    for (const Wake& w : wakes_of(t, ramp)) one["wakes"].push_back({w.after_s, w.what});
    one["wake"] = to_json(judge_wakes(t, ramp));
    for (const CheckItem& item : checklist_of(t))
      one["list"].push_back(Json::array({item.code, item.what, item.why}));
    const ramp::RampRule rule = forecast::rule_of(t);
    one["rule"] = {rule.longest_shutter_s, rule.shortest_shutter_s, rule.widest_f,     rule.start_f,
                   rule.lowest_iso,        rule.highest_iso,        rule.filter_stops, forecast::room_of(t)};
    const simulate::TrialPlan trial = forecast::trial_of(t);
    one["trial"] = {forecast::scene_for(t), forecast::trial_words(t, trial)};
    if (seed % 3 == 0 && t.knows_sky()) {
      for (const Suggestion& s : windows_for(t)) one["windows"].push_back(Json::array({s.title, s.text}));
      for (const sky::Behind& b : forecast::behind_of(t))
        one["behind"].push_back(sky::behind_words(b, t.place.zone));
      for (const auto& s : forecast::methods_of(t)) one["methods"].push_back({s.text, s.works});
    }
    kept.push_back(one);
  }
  test::hold(kept, "core/advice");
}

TEST(KeptAdvice, BesideTheTripod) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 360; ++seed) {
    Dice dice(seed);
    take::Take t = take_of(dice);
    t.light.method = ramp::Method::Hand;
    const ramp::Ramp ramp = forecast::ramp_in_any_case(t);
    const auto frames = static_cast<long long>(ramp.chain.size());
    journal::ShootState state;
    state.active = true;
    state.first = Instant(std::chrono::seconds(1790000000));
    state.interval_s = t.sums().interval_s;
    state.count = frames;
    state.scale = dice.one_of<double>({1, 60});
    const long long frame = dice.whole(-1, static_cast<int>(frames));
    state.shots = std::max(0LL, frame);
    state.missed = dice.chance(0.3) ? dice.whole(1, 9) : 0;
    // The hand kept to the plan, or missed some of it; a meter said something else.
    for (const ramp::RampStep& s : ramp.steps)
      if (s.click.frame <= frame && dice.chance(0.85))
        state.turns.push_back(
            {s.click.frame, s.click.dial, s.click.brighter ? 1 : -1, true, {}, state.first});
    if (dice.chance(0.4) && frame > 3)
      state.readings.push_back({dice.whole(0, static_cast<int>(frame)), dice.between(-3, 12)});
    if (dice.chance(0.2) && frame > 3) state.notes.push_back({frame / 2, "A gull.", "bump"});
    if (dice.chance(0.2)) state.skipped.push_back(std::max(0LL, frame - 2));
    if (!ramp.chain.empty()) state.first_dials = ramp.chain.front();
    const NextChange next = next_change(t, &ramp, state, frame);
    Json one = {next.what,
                next.why,
                next.frames_left,
                next.in_s,
                dials_now_words(t, &ramp, state, frame),
                log_lines(state, "UTC", 5)};
    if (next.click)
      one.push_back({next.click->frame, static_cast<int>(next.click->dial), next.click->brighter});
    if (next.set) one.push_back(json_of(*next.set));
    const Live live{dice.unit(), dice.unit(), dice.unit()};
    one.push_back(to_json(
        shoot_advice(t, state, dice.chance(0.7) ? std::optional(live) : std::nullopt, dice.chance(0.5))));
    if (!ramp.ev.empty()) {
      const journal::Hand hand = journal::hand_at(state, ramp, forecast::rule_of(t), frame);
      one.push_back({json_of(hand.dials), hand.filters_on, hand.meter.value_or(-99), hand.beyond,
                     hand.rest.size(), hand.rest.empty() ? -1 : hand.rest.front().click.frame,
                     hand.filters_off.value_or(-1)});
    }
    const Instant now = state.first + std::chrono::seconds(dice.whole(-100, 5000));
    one.push_back({state.frame_at(now), state.next_shot_in(now).value_or(-1), state.real_interval_s()});
    kept.push_back(one);
  }
  test::hold(kept, "core/beside");
}

TEST(KeptAdvice, RehearsalsOfMadeUpHands) {
  Json kept = Json::array();
  for (unsigned seed = 401; seed <= 430; ++seed) {
    Dice dice(seed);
    std::vector<double> light;
    for (int n = 0; n < 200; ++n) light.push_back(11 - dice.between(0.03, 0.07) * n + 0.02 * dice.normal());
    const ramp::RampRule rule;
    journal::Rehearsal rehearsal(light, rule);
    Json one = Json::array();
    for (long long frame = 1; frame < 200; ++frame)
      if (dice.chance(0.12))
        rehearsal.turn(frame, dice.one_of<ramp::Dial>({ramp::Dial::Shutter, ramp::Dial::Iso}),
                       dice.chance(0.85));
    for (const long long upto : {50LL, 1000LL}) {
      const auto r = rehearsal.result(upto);
      one.push_back({r.clicks, r.wanted_clicks, r.doubled, r.rushed, r.late, r.highlights_lost,
                     r.flicker_stops, r.score, r.better, json_of(r.yours.back()), r.meter.back()});
    }
    kept.push_back(one);
  }
  test::hold(kept, "core/rehearsals");
}

}  // namespace
}  // namespace askcount::advice
