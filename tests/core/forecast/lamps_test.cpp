// SPDX-License-Identifier: GPL-3.0-or-later
// Light that people make: a town's lamps at dusk, and a subject lit by flash.
#include <cmath>

#include "advice/light_advice.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "plan/flash.h"
#include "sky/ambient.h"
#include "support.h"

namespace askcount {
namespace {

using take::Take;

bool has(const Findings& findings, const std::string& code) {
  return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) { return f.code == code; });
}

std::string text_of(const Findings& findings, const std::string& code) {
  for (const Finding& f : findings)
    if (f.code == code) return f.text;
  return {};
}

TEST(TownLamps, ComeOnAsTheDayGoes) {
  EXPECT_EQ(sky::lamps_lit(10000), 0);
  EXPECT_EQ(sky::lamps_lit(70), 0);
  EXPECT_NEAR(sky::lamps_lit(std::sqrt(70.0 * 20)), 0.5, 1e-9);
  EXPECT_EQ(sky::lamps_lit(20), 1);
  EXPECT_EQ(sky::lamps_lit(1e-4), 1);
  const sky::Place quay = sky::demo_places().front();
  const auto at = [&](const char* time) { return parse_wall_time(time, quay.zone); };
  const auto sky = sky::ephemeris_for(at("2026-10-09 12:00"), at("2026-10-10 12:00"));
  const auto evening =
      sky::lamps_change(*sky, quay, sky::Cover::Clear, at("2026-10-09 15:00"), at("2026-10-09 22:00"));
  ASSERT_TRUE(evening);
  EXPECT_TRUE(evening->on);
  // At the first lamp the day gives 70 lux, at the last 20.
  EXPECT_NEAR(sky::daylight_lux(sky->at(sky::Body::Sun, evening->from, quay).altitude_deg), 70, 1);
  EXPECT_NEAR(sky::daylight_lux(sky->at(sky::Body::Sun, evening->to, quay).altitude_deg), 20, 0.5);
  EXPECT_GT(evening->to - evening->from, std::chrono::minutes(4));
  const auto morning =
      sky::lamps_change(*sky, quay, sky::Cover::Clear, at("2026-10-10 03:00"), at("2026-10-10 11:00"));
  ASSERT_TRUE(morning);
  EXPECT_FALSE(morning->on);
  EXPECT_NEAR(sky::daylight_lux(sky->at(sky::Body::Sun, morning->to, quay).altitude_deg), 70, 1);
  EXPECT_FALSE(
      sky::lamps_change(*sky, quay, sky::Cover::Clear, at("2026-10-09 12:00"), at("2026-10-09 16:00")));
  // Under dark clouds they come on earlier.
  EXPECT_LT(
      sky::lamps_change(*sky, quay, sky::Cover::Dark, at("2026-10-09 12:00"), at("2026-10-09 22:00"))->from,
      evening->from);
}

TEST(TownLamps, ArePartOfTheLightOnceTheyAreLit) {
  Take dark = take::demo_take(), lit = dark;
  dark.light.source = lit.light.source = {};
  dark.metered.reset();
  lit.metered.reset();
  lit.light.source.town_lux = 8;
  const auto without = forecast::light_of(dark), with = forecast::light_of(lit);
  EXPECT_NEAR(with.front(), without.front(), 1e-9) << "by day no lamp is lit";
  EXPECT_GT(with.back(), without.back() + 1);
  const Findings said = advice::light_advice(lit, forecast::ramp_of(lit));
  EXPECT_NE(text_of(said, "town_lamps").find("from 18:5"), std::string::npos) << text_of(said, "town_lamps");
  EXPECT_FALSE(has(advice::light_advice(dark, forecast::ramp_of(dark)), "town_lamps"));
}

TEST(LandByNight, IsLitByTheMoonOrLeftASilhouette) {
  const sky::Place head{"Gannet Head", 28.3, -16.6, "Atlantic/Canary", 210};
  const auto at = [&](const char* time) { return parse_wall_time(time, head.zone); };
  const auto sky = sky::ephemeris_for(at("2026-08-10 12:00"), at("2026-08-30 12:00"));
  const sky::NightView view{sky::kNaturalGlow_mag, {30, 190}};
  // No moon: starlight of 0.00065 lux is EV −11.9, the natural sky is brighter.
  const sky::LandAndSky dark = sky::land_and_sky(*sky, at("2026-08-13 02:00"), head, sky::Cover::Clear, view);
  EXPECT_NEAR(dark.land_ev, std::log2(6.5e-4 / 2.5), 0.1);
  EXPECT_GT(dark.sky_ev, dark.land_ev + 1.5);
  // A full moon high up gives some tenths of a lux: EV −3 or so.
  const sky::LandAndSky lit = sky::land_and_sky(*sky, at("2026-08-28 01:30"), head, sky::Cover::Clear, view);
  EXPECT_NEAR(lit.land_ev, -3.5, 1);
  EXPECT_GT(lit.land_ev, dark.land_ev + 7);
  Take t = take::demo_take();
  t.place = head;
  t.start = at("2026-08-13 00:30");
  EXPECT_NE(text_of(advice::light_advice(t, forecast::ramp_of(t)), "land_at_night")
                .find("Without a moon the land gets EV -11.9"),
            std::string::npos)
      << text_of(advice::light_advice(t, forecast::ramp_of(t)), "land_at_night");
  EXPECT_FALSE(
      has(advice::light_advice(take::demo_take(), forecast::ramp_of(take::demo_take())), "land_at_night"));
}

TEST(Batteries, LastLongerWithADarkScreenWhereTheirHoursEnd) {
  plan::Kit kit = plan::demo_kit();
  kit.bodies.front().power_w = 3;
  kit.bodies.front().screen_w = 1;
  kit.batteries = {{"Cell", 1000, 2, 20}};
  plan::Outing outing;
  outing.cold_counts = false;
  Take t = take::demo_take();  // one every 20 s: two hours are 360 shots
  plan::Budget battery;
  battery.shots = 360;
  EXPECT_DOUBLE_EQ(plan::shots_with_screen_off(battery, t.sums(), kit, outing), 540);
  kit.batteries.front().rated_shots = 400;
  EXPECT_DOUBLE_EQ(plan::shots_with_screen_off(battery, t.sums(), kit, outing), 400)
      << "no more than it is rated for";
  kit.batteries.front().rated_shots = 300;
  battery.shots = 300;
  EXPECT_DOUBLE_EQ(plan::shots_with_screen_off(battery, t.sums(), kit, outing), 300);
}

/// A close-up lit by a flash, from afternoon into night.
Take flashed() {
  Take t = take::demo_take();
  t.metered.reset();
  t.light.source = {};
  t.lamp = true;
  t.kit.lamps = {{"Pocket flash", 6, 220, 20}};
  t.kit.bodies.front().lowest_iso = 100;
  t.kit.bodies.front().highest_iso = 6400;
  t.focus.distance_m = 2.5;
  t.wish(plan::Slot::Shutter, 1.0 / 60);
  return t;
}

TEST(Flash, SetsApertureByItsGuideNumber) {
  EXPECT_DOUBLE_EQ(plan::flash_f_number(20, 2.5, 100), 8);
  EXPECT_DOUBLE_EQ(plan::flash_f_number(20, 2.5, 400), 16);
  const plan::Body body;
  const plan::Lens lens{"Lens", 50, 2.8, 22};
  const auto near = plan::flash_setting(20, 2.5, body, lens);
  EXPECT_NEAR(near.f_number, 8, 1e-9);
  EXPECT_NEAR(near.iso, 100, 1e-9);
  // 20 m away: f/1 at ISO 100; wide open at f/2.8 that is three stops more.
  const auto far = plan::flash_setting(20, 20, body, lens);
  EXPECT_NEAR(far.f_number, std::exp2(1.5), 0.05);
  EXPECT_NEAR(far.iso, 800, 1);
  EXPECT_EQ(far.missing_stops, 0);
  EXPECT_NEAR(plan::flash_setting(20, 2000, body, lens).missing_stops,
              2 * std::log2(100 * 2.8) - std::log2(128), 0.2);
  // So near that no aperture is small enough.
  EXPECT_NEAR(plan::flash_setting(20, 0.1, body, lens).f_number, 22, 0.7);
}

TEST(Flash, StandsAndSaysWhatTheDayDoesBesideIt) {
  const Take t = flashed();
  const forecast::ExposurePlan plan = forecast::exposure_of(t);
  EXPECT_FALSE(plan.follows);
  EXPECT_TRUE(plan.dials_known);
  EXPECT_NEAR(plan.first.f_number, 8, 1e-6);
  EXPECT_NEAR(plan.first.iso, 100, 1e-6);
  EXPECT_TRUE(plan.filters.empty());
  const Findings said = advice::light_advice(t, forecast::ramp_of(t));
  ASSERT_TRUE(has(said, "flash_and_day"));
  // By the ramp itself: over the flash at the first shot, far under at the last.
  const ramp::Ramp ramp = forecast::ramp_of(t);
  EXPECT_GT(ramp.meter.front(), -3);
  EXPECT_NE(text_of(said, "flash_and_day").find(format_number(std::abs(ramp.meter.front()), 1)),
            std::string::npos)
      << text_of(said, "flash_and_day") << ramp.meter.front();
  Take night = t;
  night.start = parse_wall_time("2026-10-09 22:00", t.place.zone);
  const Findings alone = advice::light_advice(night, forecast::ramp_of(night));
  EXPECT_TRUE(has(alone, "flash_alone"));
  EXPECT_FALSE(has(alone, "flash_and_day"));
  Take fast = t;
  fast.wish(plan::Slot::Shutter, 1.0 / 1000);
  EXPECT_TRUE(has(advice::light_advice(fast, forecast::ramp_of(fast)), "flash_shutter"));
  Take far = t;
  far.focus.distance_m = 900;
  EXPECT_TRUE(has(advice::light_advice(far, forecast::ramp_of(far)), "flash_too_weak"));
  Take unknown = t;
  unknown.kit.lamps.front().guide_m = 0;
  EXPECT_TRUE(has(advice::light_advice(unknown, forecast::ramp_of(unknown)), "flash_unknown"));
}

TEST(Flash, RunsOutByTheFlashAndNotByTheHour) {
  Take t = flashed();
  t.cold_counts = false;
  const auto lamp = [](const Take& take) {
    for (const plan::Budget& b : forecast::budgets_of(take, take.sums()))
      if (b.name == "lamp") return b;
    return plan::Budget{};
  };
  EXPECT_DOUBLE_EQ(lamp(t).shots, 220);
  EXPECT_EQ(lamp(t).words, "flashes 220 times");
  ASSERT_TRUE(lamp(t).ends_at_frame);
  EXPECT_EQ(*lamp(t).ends_at_frame, 220);
  t.shot.brackets = 3;
  EXPECT_DOUBLE_EQ(lamp(t).shots, 73);
  // However long the interval is.
  t.shot.brackets = 1;
  t.wish(plan::Slot::Interval, 60);
  EXPECT_DOUBLE_EQ(lamp(t).shots, 220);
  t.kit.lamps = {{"Sill lamp", 9, 0, 0}};
  EXPECT_DOUBLE_EQ(lamp(t).shots, 540);
}

}  // namespace
}  // namespace askcount
