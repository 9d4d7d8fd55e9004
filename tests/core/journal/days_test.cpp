// SPDX-License-Identifier: GPL-3.0-or-later
// A shoot by hours of work beside a real camera: the clock knows the nights, and a hand sets the dials anew
// each morning.
#include "advice/next_change.h"
#include "forecast/light.h"
#include "forecast/trial.h"
#include "journal/hand.h"
#include "plan/work.h"
#include "simulate/scene.h"
#include "support.h"

namespace askcount::journal {
namespace {

using plan::Slot;

const Instant kFirst = Instant(std::chrono::milliseconds(1'780'000'000'000));

/// Three days of 61, 61 and 58 frames, one a minute; a day is 86,400 s.
std::vector<Json> dig() {
  return {{{"what", "start"},
           {"standin", false},
           {"scale", 1},
           {"first_ms", kFirst.time_since_epoch().count()},
           {"interval_s", 60},
           {"count", 180},
           {"runs", {{0, 0}, {61, 86400}, {122, 172800}}}}};
}

TEST(ShootByDays, KnowsTheNights) {
  const ShootState s = state_of(dig());
  const auto at = [&](double seconds) { return later(kFirst, seconds); };
  EXPECT_EQ(s.frame_at(at(-1)), -1);
  EXPECT_EQ(s.frame_at(at(0)), 0);
  EXPECT_EQ(s.frame_at(at(3600)), 60);
  EXPECT_EQ(s.frame_at(at(40000)), 60) << "nothing is shot by night";
  EXPECT_NEAR(*s.next_shot_in(at(40000)), 46400, 1e-6);
  EXPECT_EQ(s.frame_at(at(86399)), 60);
  EXPECT_EQ(s.frame_at(at(86400)), 61);
  EXPECT_EQ(s.frame_at(at(172800 + 57 * 60)), 179);
  EXPECT_EQ(s.frame_at(at(1e6)), 179);
  EXPECT_FALSE(s.next_shot_in(at(172800 + 57 * 60 + 1)));
  for (const long long n : {0, 30, 60, 61, 121, 122, 179}) EXPECT_EQ(s.frame_at(at(s.at_s(n))), n);
}

TEST(ShootByDays, IsPutRightInTheMiddleOfADay) {
  std::vector<Json> lines = dig();
  // Frame 100, on the second day, is now: 20 s later than by the plan.
  const Instant real = later(kFirst, 86400 + 39 * 60 + 20);
  lines.push_back({{"what", "put"}, {"at", real.time_since_epoch().count()}, {"frame", 100}});
  const ShootState s = state_of(lines);
  EXPECT_EQ(s.frame_at(real), 100);
  EXPECT_EQ(s.frame_at(later(real, 59)), 100);
  EXPECT_EQ(s.frame_at(later(real, 61)), 101);
}

TEST(ShootByDays, PassesOverRunsThatGoBackwards) {
  for (const Json& bad :
       {Json{{5, 0}}, Json{{0, 0}, {61, -5}}, Json{{0, 0}, {0, 86400}}, Json{"none"}, Json{{0}}}) {
    std::vector<Json> lines = dig();
    lines[0]["runs"] = bad;
    const ShootState s = state_of(lines);
    EXPECT_TRUE(s.runs.empty()) << bad.dump();
  }
}

/// A dig from dusk on: each day its light goes, and each day the dials begin anew.
take::Take dusks() {
  take::Take t;
  t.subject = "building site";
  t.place = simulate::scene_place("Tern Quay");
  t.start = parse_wall_time("2026-10-09 17:30", t.place.zone);
  t.work = plan::parse_work("17:30-19:30");
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, 30);
  t.wish(Slot::Frames, 600);
  t.metered = plan::Metered{1.0 / 125, 8, 100};
  t.light.rule.frames_apart = 2;
  t.light.rule.frames_apart_late = 1;
  return t;
}

TEST(HandByDays, IsToldToSetTheDialsEachMorning) {
  const take::Take t = dusks();
  const ramp::Ramp ramp = forecast::ramp_of(t);
  const ramp::RampRule rule = forecast::rule_of(t);
  ASSERT_EQ(ramp.days.size(), 2U);
  const long long day = ramp.days[0];
  ShootState s;
  s.active = true;
  s.count = 600;
  s.interval_s = 30;
  s.first_dials = ramp.chain.front();
  // All of the first day's clicks are done as planned.
  for (const ramp::RampStep& step : ramp.steps)
    if (step.click.frame < day)
      s.turns.push_back({step.click.frame, step.click.dial, step.click.brighter ? 1 : -1, true, {}, {}});
  Hand hand = hand_at(s, ramp, rule, day - 1);
  EXPECT_EQ(hand.dials, ramp.chain[static_cast<size_t>(day - 1)]);
  EXPECT_EQ(hand.new_day, day);
  EXPECT_EQ(hand.morning, ramp.chain[static_cast<size_t>(day)]);
  // The words say it, and when it is due.
  const advice::NextChange next = advice::next_change(t, &ramp, s, day - 1);
  ASSERT_TRUE(next.set);
  EXPECT_EQ(*next.set, ramp.chain[static_cast<size_t>(day)]);
  EXPECT_FALSE(next.filters_off);
  // Forgotten, it stays due, and no click is asked for before it.
  hand = hand_at(s, ramp, rule, day + 5);
  EXPECT_EQ(hand.new_day, day);
  EXPECT_TRUE(hand.rest.empty());
  // Set, the plan goes on.
  s.turns.push_back({day, ramp::Dial::Shutter, 0, false, ramp.chain[static_cast<size_t>(day)], {}});
  hand = hand_at(s, ramp, rule, day);
  EXPECT_EQ(hand.new_day, ramp.days[1]);
  ASSERT_FALSE(hand.rest.empty());
  EXPECT_GT(hand.rest.front().click.frame, day);
}

TEST(TrialByDays, ShowsTheHoursOfWorkAndNoNights) {
  const take::Take t = dusks();
  const simulate::TrialPlan plan = forecast::trial_of(t);
  const plan::Schedule schedule = forecast::schedule_of(t);
  ASSERT_EQ(plan.at_s.size(), 600U);
  for (const long long n : {0, 100, 240, 241, 400, 599}) EXPECT_EQ(plan.at(n), schedule.at(n)) << n;
  // The light on every frame is the plan's: none is lost to a night in between.
  const simulate::TrialFilm film(plan);
  const ramp::Ramp ramp = forecast::ramp_of(t);
  for (const long long n : {0, 120, 240, 241, 300, 480, 482, 599})
    EXPECT_NEAR(film.over_stops(n), ramp.meter[static_cast<size_t>(n)], 0.05) << n;
}

}  // namespace
}  // namespace askcount::journal
