// SPDX-License-Identifier: GPL-3.0-or-later
// Plans of made-up wishes, kits and outings, held against those that were kept. What is right is tested in
// solver_test.cpp, planning_test.cpp, power_test.cpp and plan_edges_test.cpp.
#include <cmath>

#include "dice.h"
#include "kept.h"
#include "plan/budgets.h"
#include "plan/close_up.h"
#include "plan/days.h"
#include "plan/exposure_match.h"
#include "plan/flash.h"
#include "plan/measures.h"
#include "plan/nudge.h"
#include "plan/rulers.h"
#include "plan/settable.h"
#include "plan/shot_cycle.h"
#include "plan/slider.h"
#include "plan/subject.h"
#include "plan/ways.h"
#include "plan/why.h"
#include "support.h"
#include "timer/program.h"

namespace askcount::plan {
namespace {

using test::Dice;

std::vector<Wish> wishes_of(Dice& dice) {
  std::vector<Wish> all = {
      {Slot::Fps, dice.one_of<double>({24, 25, 30, 24000.0 / 1001, 60}), dice.chance(0.3)}};
  const auto some = [&](Slot slot, double value, double chance) {
    if (dice.chance(chance)) all.push_back({slot, value, dice.chance(0.4)});
  };
  some(Slot::Clip, dice.between(1, 40), 0.4);
  some(Slot::Frames, dice.whole(10, 1500), 0.3);
  some(Slot::Interval, dice.one_of<double>({1, 2.5, 6, 20, 60, 300, 900}), 0.5);
  some(Slot::Field, dice.between(120, 90000), 0.3);
  some(Slot::SpeedUp, dice.between(5, 9000), 0.15);
  some(Slot::FieldCrossing, dice.between(2, 20000), 0.3);
  some(Slot::ScreenCrossing, dice.between(2, 12), 0.2);
  some(Slot::Step, dice.between(0.001, 0.2), 0.15);
  some(Slot::Trail, dice.between(0.05, 0.9), 0.3);
  some(Slot::Shutter, dice.one_of<double>({1.0 / 250, 1.0 / 15, 0.5, 2, 20}), 0.4);
  some(Slot::Gap, dice.between(0.5, 20), 0.15);
  return all;
}

ShotMake make_of(Dice& dice) {
  ShotMake make;
  if (dice.chance(0.3)) make.brackets = dice.whole(2, 5), make.bracket_stops = dice.between(0.5, 2);
  make.dark_frames = dice.chance(0.2);
  make.raw = dice.chance(0.7);
  make.compressed = !make.raw || dice.chance(0.3);
  make.cards = dice.one_of<CardUse>({CardUse::InTurn, CardUse::Both, CardUse::Split});
  make.turning_s = dice.chance(0.3) ? dice.between(0.5, 4) : 0;
  make.lock_s = dice.chance(0.2) ? dice.between(0.5, 3) : 0;
  return make;
}

Kit kit_of(Dice& dice) {
  Kit kit = dice.chance(0.5) ? demo_kit() : example_kit();
  Body& body = kit.bodies.front();
  body.raw_mb = dice.between(15, 90);
  body.compressed_mb = dice.between(4, 20);
  body.buffer_mb = dice.between(100, 2000);
  body.write_mb_s = dice.between(20, 400);
  body.writing_s = dice.between(0.2, 2);
  body.power_w = dice.between(1, 6);
  body.screen_w = dice.between(0, 1);
  body.card_slots = dice.whole(1, 2);
  body.next_file_number = dice.one_of<int>({1, 9000, 9900});
  body.shutter_count = dice.whole(0, 149000);
  body.shutter_life = dice.one_of<long long>({0, 150000});
  if (!kit.lenses.empty()) kit.lenses.front().focal_mm = dice.one_of<double>({14, 24, 35, 85});
  while (kit.cards.size() > 1 && dice.chance(0.4)) kit.cards.pop_back();
  for (Card& card : kit.cards)
    card.capacity_gb = dice.between(4, 128), card.write_mb_s = dice.between(15, 200);
  for (Battery& b : kit.batteries)
    b.rated_shots = dice.between(200, 1200), b.powered_hours = dice.between(1.5, 7),
    b.rated_at_c = dice.between(15, 25);
  kit.power_banks.clear();
  if (dice.chance(0.5)) kit.power_banks.push_back({"Bank", dice.between(20, 100), dice.between(0.1, 0.35)});
  if (!kit.power_banks.empty() && dice.chance(0.4))
    kit.power_banks[0].switches_off_below_w = dice.between(0.5, 4);
  kit.heater_w = dice.chance(0.3) ? dice.between(3, 10) : 0;
  return kit;
}

Outing outing_of(Dice& dice) {
  Outing outing;
  outing.temperature_c = dice.between(-25, 30);
  outing.external_power = dice.chance(0.3);
  outing.timer_max_count = dice.one_of<long long>({0, 99, 399, 9999});
  outing.disk_free_gb = dice.one_of<double>({0, 10, 500});
  outing.lamp = dice.chance(0.3);
  outing.waiting_s = dice.chance(0.3) ? dice.between(60, 20000) : 0;
  outing.cold_counts = dice.chance(0.8);
  outing.heater = dice.chance(0.3);
  return outing;
}

/// Infinity has no JSON.
double finite(double v) {
  return std::isfinite(v) ? v : -1;
}

Json json_of(const Solution& solution) {
  Json values = Json::array();
  for (size_t i = 0; i < kSlots; ++i)
    values.push_back({solution.values[i].value_or(-1), static_cast<int>(solution.by[i]), solution.asked[i],
                      why_words(static_cast<Slot>(i), solution)});
  Json gave = Json::array();
  for (const Slot s : solution.gave_way) gave.push_back(slot_word(s));
  return {{"values", values}, {"gave_way", gave}, {"missing", missing_words(solution)}};
}

TEST(KeptPlan, WishesAreSolved) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 110; ++seed) {
    Dice dice(seed);
    const std::vector<Wish> wishes = wishes_of(dice);
    const ShotMake make = make_of(dice);
    ShotShape shape = shape_of(make, dice.chance(0.3) ? dice.whole(0, 20) : 0);
    if (dice.chance(0.3)) shape.usual_shutter_s = dice.between(0.01, 30);
    const Solution solution = solve(wishes, shape, dice.chance(0.7) ? 0.5 : dice.between(0.1, 0.9));
    Json one = json_of(solution);
    for (const Conflict& c : solution.conflicts)
      one["conflicts"].push_back({conflict_words(c, wishes), conflict_words(c, wishes, Naming::Words),
                                  finite(c.would_be.value_or(-1))});
    if (solution.complete()) {
      const Sums sums = sums_of(solution, shape);
      one["sums"] = to_json(sums);
      one["judged"] = to_json(judge(sums));
      if (seed % 8 == 0)
        for (const WhatIf& w : what_if(wishes, nearby_intervals(sums.interval_s), shape))
          one["if"].push_back(json_of(w.solution));
    }
    kept.push_back(one);
  }
  test::hold(kept, "core/wishes");
}

Sums some_sums(Dice& dice, const ShotMake& make) {
  std::vector<Wish> wishes = {{Slot::Fps, 25, true},
                              {Slot::Frames, static_cast<double>(dice.whole(20, 3000)), true},
                              {Slot::Interval, dice.one_of<double>({1, 2, 3.5, 8, 20, 90, 900}), true}};
  if (dice.chance(0.5)) wishes.push_back({Slot::FieldCrossing, dice.between(2, 5000), false});
  if (dice.chance(0.5))
    wishes.push_back({Slot::Shutter, dice.one_of<double>({1.0 / 60, 0.4, 1.6, 13, 25}), false});
  const ShotShape shape = shape_of(make, dice.chance(0.3) ? dice.whole(0, 20) : 0);
  return sums_of(solve(wishes, shape), shape);
}

TEST(KeptPlan, WhatRunsOutAndWhenToChangeIt) {
  Json kept = Json::array();
  for (unsigned seed = 1001; seed <= 1100; ++seed) {
    Dice dice(seed);
    const ShotMake make = make_of(dice);
    const Sums sums = some_sums(dice, make);
    const Kit kit = kit_of(dice);
    const Outing outing = outing_of(dice);
    Json one;
    const auto budgets = budgets_of(sums, make, kit, outing);
    for (const Budget& b : budgets) {
      one["budgets"].push_back({b.name, finite(b.shots), b.share, b.ends_at_frame.value_or(-1),
                                b.ends_after_s, b.words,
                                budget_axis(b.shots, static_cast<double>(shots_of(sums)))});
      if (b.name == "battery") one["screen_off"] = finite(shots_with_screen_off(b, sums, kit, outing));
    }
    one["judged"] = to_json(judge(budgets, sums, make, kit, outing));
    for (const Swap& s : swaps_of(sums, make, kit, outing))
      one["swaps"].push_back({s.what, s.from, s.to, s.at_frame, s.after_s, s.words});
    const Buffering buffering = buffering_of(sums, make, kit);
    one["buffer"] = {buffering.fits, buffering.lost};
    one["longest"] = longest_interval(sums, kit, outing).value_or(-1);
    const ShotCycle cycle =
        cycle_of(make, kit.bodies.front(), kit.cards.empty() ? nullptr : &kit.cards.front(), sums.shutter_s);
    one["cycle"] = {cycle.open_s,
                    cycle.dark_s,
                    cycle.writing_s,
                    cycle.turning_s,
                    cycle.lock_s,
                    cycle.sustained_s,
                    cycle.shortest_interval_s(),
                    shot_mb(make, kit.bodies.front()),
                    to_json(Findings{judge_cycle(cycle, sums.interval_s)})};
    WorkHours work;
    if (dice.chance(0.5)) work = {dice.between(4, 9), dice.between(12, 22), dice.whole(3, 7)};
    const Schedule schedule({{}, "UTC", sums.interval_s, shots_of(sums), work});
    if (const auto days = days_of(sums, make, kit, budgets, work, schedule))
      one["days"] = {days->shots_a_day,          days->days,
                     days->calendar_days,        days->gb_a_day,
                     finite(days->power_days),   finite(days->card_days),
                     days->shutter_share_a_week, finite(days->visit_days()),
                     to_json(judge(*days, work))};
    for (const Way& w : ways_of(sums, make, kit.bodies.front(), 1920))
      one["ways"].push_back(
          {w.name, w.film_s, w.data_gb, w.pixels_across, w.pixels_down, w.crop, w.told, w.words});
    kept.push_back(one);
  }
  test::hold(kept, "core/budgets");
}

TEST(KeptPlan, ExposuresCloseUpsSlidersAndTimers) {
  Json kept = Json::array();
  for (unsigned seed = 2001; seed <= 2120; ++seed) {
    Dice dice(seed);
    const ShotMake make = make_of(dice);
    const Sums sums = some_sums(dice, make);
    const Kit kit = kit_of(dice);
    const Body& body = kit.bodies.front();
    const Metered metered{std::exp2(dice.whole(-36, 6) / 3.0), std::exp2(dice.whole(3, 12) / 3.0),
                          body.lowest_iso * std::exp2(dice.whole(0, 9) / 3.0)};
    const ExposureMatch match = match_exposure(metered, sums.shutter_s, kit);
    Json one;
    one["match"] = {match.stops,
                    match.filters,
                    match.filter_stops,
                    match.setting.shutter_s,
                    match.setting.f_number,
                    match.setting.iso,
                    match.missing_stops,
                    match.nearest_shutter_s,
                    to_json(judge(match, sums.shutter_s, kit))};
    const Metered test = test_exposure(match.setting, kit);
    one["test"] = {test.shutter_s, test.iso, metered_words(test)};
    const Lens lens = kit.lenses.empty() ? Lens() : kit.lenses.front();
    const StarRules stars = star_rules(body, lens, dice.between(1.4, 5.6));
    one["stars"] = {
        stars.by_500, stars.by_600, stars.by_pixel, diffraction_f(body.pixel_um()),
        star_drift_px(dice.between(1, 40), lens.focal_mm, body.pixel_um(), dice.between(-60, 80))};
    const Depth depth = depth_of_field(body, lens.focal_mm, dice.between(1.4, 16), dice.between(0.5, 30),
                                       dice.chance(0.5) ? 0 : 20);
    one["depth"] = {depth.hyperfocal_m, depth.near_m, finite(depth.far_m)};
    const CloseUp close =
        close_up(body, dice.between(0.05, 3), dice.between(2, 16), dice.chance(0.5) ? 0 : 15);
    one["close"] = {close.depth_mm, close.light_lost_stops, close.effective_f, close.field_width_mm,
                    refocus_every(close, dice.between(0.01, 5), sums).value_or(-1)};
    const Slider slider{dice.between(0.1, 2), dice.between(0.2, 2), dice.between(0.3, 10)};
    const Sliding sliding = sliding_of(slider, sums, body, lens.focal_mm, dice.between(0.1, 10));
    one["slider"] = {sliding.step_mm,     sliding.near_step,
                     sliding.near_across, sliding.near_crossing_film_s,
                     sliding.free_s,      to_json(judge(sliding, slider))};
    const FlashSetting flash = flash_setting(dice.between(5, 60), dice.between(0.3, 12), body, lens);
    one["flash"] = {flash.f_number, flash.iso, flash.missing_stops};
    const Timer timer = dice.one_of<Timer>(timers_of(kit));
    const Settable set = settable(sums, timer, body);
    one["settable"] = {set.interval_s, set.shutter_s, set.field_s, set.trail, set.as_planned};
    std::vector<Measure> measures;
    for (int i = 0; i < 3; ++i)
      measures.push_back({static_cast<MotionWay>(i), dice.between(5, 15), dice.between(0, 3), 3});
    one["measures"] = {to_json(judge(measures)), interval_for(measures[0], dice.between(3, 9), 25),
                       motion_word(dice.between(1, 9), dice.between(0, 0.1), dice.unit())};
    Json nudges = Json::array();
    for (size_t s = 0; s < kSlots; ++s)
      if (const auto v =
              solve(
                  {{Slot::Fps, 25, true}, {Slot::Frames, 100, true}, {Slot::Interval, sums.interval_s, true}})
                  .values[s])
        nudges.push_back({nudged(static_cast<Slot>(s), *v, 1), nudged(static_cast<Slot>(s), *v, -2)});
    one["nudges"] = nudges;
    const Ruler ruler = field_ruler(dice.between(0, 86400), sums.field_s);
    one["rulers"] = {ruler.from,
                     ruler.to,
                     ruler.tick,
                     ruler.ticks().size(),
                     film_ruler(sums.clip_s, 9).tick,
                     threads(sums.frames, 7),
                     interval_place(sums.interval_s),
                     interval_at(dice.unit())};
    kept.push_back(one);
  }
  test::hold(kept, "core/planned");
}

TEST(KeptPlan, TimersAreTold) {
  Json kept = Json::array();
  for (unsigned seed = 3001; seed <= 3100; ++seed) {
    Dice dice(seed);
    const ShotMake make = make_of(dice);
    const Sums sums = some_sums(dice, make);
    Timer timer = dice.one_of<Timer>(shipped_timers());
    if (dice.chance(0.3)) timer.max_count = dice.one_of<long long>({99, 399}), timer.endless = false;
    timer::ProgramWish wish;
    wish.start =
        dice.one_of<timer::StartBy>({timer::StartBy::Clock, timer::StartBy::Delay, timer::StartBy::Now});
    wish.delay_s = dice.between(0, 30);
    wish.endless = dice.chance(0.3);
    wish.shutter.dial_s = dice.one_of<double>({1, 30});
    if (dice.chance(0.3))
      wish.shutter.first_s = sums.shutter_s / 8, wish.shutter.longest_s = sums.shutter_s,
      wish.shutter.follows = true;
    if (dice.chance(0.6)) wish.first_shot = Instant(std::chrono::seconds(1790000000 + dice.whole(0, 86400)));
    const timer::Program p = timer::program_for(sums, timer, wish);
    Json one = {
        p.delay_s, p.start_clock, p.bulb,  p.needs_holding, p.hold_s,     p.open_s, p.interval_s,
        p.gap_s,   p.setting_s,   p.count, p.endless,       p.no_endless, p.runs,   to_json(judge(p, sums))};
    for (const timer::ProgramLine& line : timer::program_lines(p))
      one.push_back({line.field, line.word, line.value, line.why});
    kept.push_back(one);
  }
  test::hold(kept, "core/timers");
}

}  // namespace
}  // namespace askcount::plan
