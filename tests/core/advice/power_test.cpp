// SPDX-License-Identifier: GPL-3.0-or-later
// Power, buffer and what they cost, against worked sums.
#include "advice/checklist.h"
#include "advice/light_advice.h"
#include "advice/plan_advice.h"
#include "forecast/light.h"
#include "sky/windows.h"
#include "support.h"

namespace askcount::plan {
namespace {

Sums sums_for(long long frames, double interval, double shutter = 0.1) {
  return sums_of(solve({{Slot::Frames, static_cast<double>(frames), true},
                        {Slot::Fps, 25, true},
                        {Slot::Interval, interval, true},
                        {Slot::Shutter, shutter, true}}));
}

Kit small_kit() {
  Kit kit = demo_kit();
  kit.batteries = {{"Cell", 100000, 5, 20}};
  kit.cards = {{"Card", 1000, 10}};
  return kit;
}

const Budget* named(const std::vector<Budget>& list, const char* name) {
  for (const Budget& b : list)
    if (b.name == name) return &b;
  return nullptr;
}
const Finding* find(const Findings& list, const std::string& code) {
  for (const Finding& f : list)
    if (f.code == code) return &f;
  return nullptr;
}

TEST(Buffer, FillsAsACameraDoes) {
  // Raw of 28 MB every second onto 10 MB/s: 18 MB more wait each time. 300 MB hold 16, and of 60 shots about
  // as many are lost as the card is slower than the files.
  Kit kit = small_kit();
  kit.bodies[0].buffer_mb = 300;
  const Sums sums = sums_for(60, 1);
  const Buffering b = buffering_of(sums, {}, kit);
  EXPECT_EQ(b.fits, 16) << "16 × 28 − 15 × 10 = 298";
  EXPECT_NEAR(static_cast<double>(b.lost), 60 - (300 + 590) / 28.0, 1.5);
  // The stand-in, told the same, loses just as many.
  const test::Folder folder;
  take::Take take = test::small_take(60, {48, 32}, 1);
  take.wish(Slot::Shutter, 0.1);
  take.kit = kit;
  take.kit.bodies[0].writing_s = 0;
  take.shot.raw = true;
  simulate::RigSetting rig = forecast::rig_of(take, folder / "card", true);
  rig.raw = true;
  rig.compressed = false;
  simulate::Rig camera(rig);
  const simulate::RigOutcome outcome = camera.run({}, {});
  EXPECT_EQ(outcome.missed, b.lost);
  // It is a budget with its frame, and a stop.
  const auto budgets = budgets_of(sums, {}, kit, {});
  ASSERT_TRUE(named(budgets, "buffer"));
  EXPECT_EQ(*named(budgets, "buffer")->ends_at_frame, 16);
  EXPECT_TRUE(find(judge(budgets, sums, {}, kit, {}), "buffer_fills"));
  // Slow enough, or short enough, none is lost.
  EXPECT_EQ(buffering_of(sums_for(60, 2.9), {}, kit).lost, 0);
  EXPECT_EQ(buffering_of(sums_for(16, 1), {}, kit).lost, 0);
  EXPECT_FALSE(named(budgets_of(sums_for(16, 1), {}, kit, {}), "buffer"));
}

TEST(Battery, HoldsItsHoursAtTheTemperatureItIsRatedFor) {
  Kit kit = small_kit();
  const Sums sums = sums_for(2000, 10);
  Outing outing;
  const auto shots = [&] { return named(budgets_of(sums, {}, kit, outing), "battery")->shots; };
  outing.temperature_c = 20;
  EXPECT_DOUBLE_EQ(shots(), 1800);
  outing.temperature_c = 0;
  EXPECT_DOUBLE_EQ(shots(), 1260) << "30 % less";
  EXPECT_NE(named(budgets_of(sums, {}, kit, outing), "battery")->words.find("30 % less at 0 °C"),
            std::string::npos);
  outing.cold_counts = false;
  EXPECT_DOUBLE_EQ(shots(), 1800);
  outing.cold_counts = true;
  kit.batteries[0].rated_at_c = 0;  // measured in the cold
  EXPECT_DOUBLE_EQ(shots(), 1800);
  // Waiting for the start costs as much as shooting.
  outing.waiting_s = 3600;
  EXPECT_DOUBLE_EQ(shots(), 1440);
}

TEST(PowerBank, IsNotEndless) {
  Kit kit = small_kit();
  kit.power_banks = {{"Brick", 74, 0.25, 0, false}};
  kit.bodies[0].power_w = 3;
  kit.heater_w = 4.4;
  const Sums sums = sums_for(10000, 10);
  Outing outing;
  outing.temperature_c = 20;
  outing.external_power = true;
  const auto bank = [&] { return *named(budgets_of(sums, {}, kit, outing), "power bank"); };
  EXPECT_DOUBLE_EQ(bank().shots, 6660) << "74 Wh × 0.75 ÷ 3 W = 18.5 h";
  outing.heater = true;
  EXPECT_DOUBLE_EQ(bank().shots, 2700) << "7.4 W: 7.5 h";
  EXPECT_TRUE(find(judge(budgets_of(sums, {}, kit, outing), sums, {}, kit, outing), "bank_ends"));
  EXPECT_FALSE(find(judge(budgets_of(sums, {}, kit, outing), sums, {}, kit, outing), "bank_button"));
  kit.power_banks[0].switches_off_below_w = 5;
  kit.power_banks[0].has_button = true;
  const Findings list = judge(budgets_of(sums, {}, kit, outing), sums, {}, kit, outing);
  ASSERT_TRUE(find(list, "bank_switches_off"));
  EXPECT_EQ(find(list, "bank_switches_off")->severity, Severity::Stop);
  EXPECT_TRUE(find(list, "bank_button"));
  // From the mains it does not end.
  kit.power_banks.clear();
  EXPECT_TRUE(std::isinf(named(budgets_of(sums, {}, kit, outing), "battery")->shots));
  // A kit keeps them.
  kit.power_banks = {{"Brick", 74, 0.25, 5, true}};
  EXPECT_EQ(kit_from_json(to_json(kit), "kit"), kit);
}

TEST(Budgets, LieOnOneAxis) {
  EXPECT_NEAR(budget_axis(250, 250), 1.0 / 3, 1e-9);
  EXPECT_NEAR(budget_axis(2500, 250), 2.0 / 3, 1e-9);
  EXPECT_DOUBLE_EQ(budget_axis(25, 250), 0);
  EXPECT_DOUBLE_EQ(budget_axis(1e9, 250), 1);
  EXPECT_DOUBLE_EQ(budget_axis(0, 250), 0);
  EXPECT_LT(budget_axis(600, 250), budget_axis(994, 250)) << "the bars differ";
}

TEST(Hours, OfferAnIntervalThatUsesThem) {
  // 1,000 shots in 5 h: 18 s.
  take::Take t;
  t.kit = small_kit();
  t.temperature_c = 20;
  t.wish(Slot::FieldCrossing, 1700);
  t.wish(Slot::ScreenCrossing, 10);
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Frames, 1000);
  const Findings list = advice::plan_advice(t);
  ASSERT_TRUE(find(list, "hours_reach"));
  EXPECT_EQ(find(list, "hours_reach")->fix, Fix(fix::SetSlot{Slot::Interval, 18}));
  t.wish(Slot::Interval, 7);  // said
  EXPECT_FALSE(find(advice::plan_advice(t), "hours_reach"));
}

TEST(Brackets, AloneStillFitTheInterval) {
  ShotMake make;
  make.brackets = 3;
  make.bracket_stops = 2;
  const ShotShape shape = shape_of(make, 0);
  const Sums s = sums_of(solve({{Slot::Frames, 100}, {Slot::Fps, 25}, {Slot::Interval, 10}}, shape), shape);
  EXPECT_GT(s.gap_s, 0);
  EXPECT_NEAR(shape.open_factor * s.shutter_s, 5, 1e-9) << "half the interval for all three";
}

TEST(Everything, IsNotSaidToLastWhereSomethingIsChanged) {
  take::Take t = take::demo_take();
  t.wish(Slot::Frames, 800);  // one battery holds some 500
  const Findings list = advice::plan_advice(t);
  ASSERT_TRUE(find(list, "swap_battery"));
  ASSERT_TRUE(find(list, "budgets_last"));
  EXPECT_EQ(find(list, "budgets_last")->title, "You bring enough");
}

TEST(Checklist, KnowsWhatWasForgotten) {
  take::Take t = take::demo_take();
  const auto items = advice::checklist_of(t);
  const auto at = [&](const std::string& code) {
    for (size_t i = 0; i < items.size(); ++i)
      if (items[i].code == code) return static_cast<long>(i);
    return -1L;
  };
  for (const char* code : {"drive", "smoothing", "manual_lens", "custom_mode", "finder"})
    EXPECT_GE(at(code), 0) << code;
  EXPECT_GT(at("numbering"), at("test_frames")) << "after the test frames, not before";
  EXPECT_NE(items[static_cast<size_t>(at("shape"))].what.find("3:2"), std::string::npos) << "the body's own";
  t.kit.bodies[0].pixels_across = 5184;
  t.kit.bodies[0].pixels_down = 3888;
  bool four_thirds = false;
  for (const advice::CheckItem& i : advice::checklist_of(t))
    four_thirds = four_thirds || i.what.find("4:3") < i.what.size();
  EXPECT_TRUE(four_thirds);
}

TEST(Dew, IsAskedForOnEveryNightTake) {
  take::Take t = take::demo_take();
  t.light.weather.humidity.reset();
  t.start = parse_wall_time("2026-10-09 21:00", t.place.zone);
  EXPECT_TRUE(find(advice::light_advice(t, forecast::ramp_of(t)), "dew_unknown"));
  const auto heater = [&] {
    for (const advice::CheckItem& i : advice::checklist_of(t))
      if (i.code == "heater") return true;
    return false;
  };
  EXPECT_TRUE(heater());
  t.start = parse_wall_time("2026-10-09 12:00", t.place.zone);
  EXPECT_FALSE(find(advice::light_advice(t, forecast::ramp_of(t)), "dew_unknown"));
  EXPECT_FALSE(heater());
  t.subject = "the milky way";
  EXPECT_TRUE(heater());
}

TEST(Light, SaysThatNobodyHasMetered) {
  take::Take t = take::demo_take();
  EXPECT_FALSE(find(advice::light_advice(t, forecast::ramp_of(t)), "light_not_metered"));
  t.metered.reset();
  EXPECT_TRUE(find(advice::light_advice(t, forecast::ramp_of(t)), "light_not_metered"));
  // What the frame shows moves the estimated light, and the night not at all.
  const double ground = forecast::light_of(t).front();
  t.light.source.shows = sky::Shows::LitSky;
  EXPECT_NEAR(forecast::light_of(t).front() - ground, 2, 0.05);
  t.start = parse_wall_time("2026-10-09 23:30", t.place.zone);
  t.light.source.town_lux = 0;
  const double night = forecast::light_of(t).front();
  t.light.source.shows = sky::Shows::Ground;
  EXPECT_NEAR(forecast::light_of(t).front(), night, 1e-9);
  // A reading outweighs it.
  t = take::demo_take();
  t.light.source.shows = sky::Shows::LitSky;
  EXPECT_NEAR(forecast::light_of(t).front(), ramp::ev_of_exposure(1.0 / 125, 8, 100), 1e-6);
}

}  // namespace
}  // namespace askcount::plan

namespace askcount::sky {
namespace {

TEST(NightSky, IsThatOfTheSource) {
  // 22.0 magnitudes are 1.7 × 10⁻⁴ cd/m²; five magnitudes a hundredfold.
  EXPECT_NEAR(luminance_of_mag(22.0), 1.72e-4, 0.02e-4);
  EXPECT_NEAR(luminance_of_mag(17.0) / luminance_of_mag(22.0), 100, 0.5);
  EXPECT_NEAR(mag_of_luminance(luminance_of_mag(20.3)), 20.3, 1e-9);
  EXPECT_NEAR(glow_luminance(22.0, 90), luminance_of_mag(22.0), 1e-9);
  EXPECT_GT(glow_luminance(22.0, 20), glow_luminance(22.0, 60)) << "brighter towards the horizon";
  // Krisciunas and Schaefer's own example: a full moon makes a dark sky some 40 times brighter, nearer to it
  // more.
  const double full = moonlit_luminance(60, 0, 60, 60);
  EXPECT_GT(full / luminance_of_mag(22.0), 15);
  EXPECT_LT(full / luminance_of_mag(22.0), 80);
  EXPECT_GT(moonlit_luminance(60, 0, 15, 60), full);
  EXPECT_LT(moonlit_luminance(60, 90, 60, 60), full / 8) << "a half moon is far less than half";
  EXPECT_EQ(moonlit_luminance(-1, 0, 60, 60), 0);
}

TEST(Band, GoesThroughTheCoreAndRoundTheSky) {
  const Place head = demo_places()[1];
  const Instant at = parse_wall_time("2026-08-12 23:30", head.zone);
  const auto sky = ephemeris_for(at, at);
  const auto band = sky->band(at, head);
  ASSERT_EQ(band.size(), 73u);
  const Direction core = sky->at(Body::Core, at, head);
  EXPECT_NEAR(band[0].altitude_deg, core.altitude_deg, 0.15);
  EXPECT_NEAR(std::remainder(band[0].azimuth_deg - core.azimuth_deg, 360), 0, 0.15);
  EXPECT_NEAR(band[72].altitude_deg, band[0].altitude_deg, 1e-9);
  // Half of it is below the horizon, and its two halves lie opposite each other.
  int up = 0;
  for (const Direction& d : band) up += d.altitude_deg > 0;
  EXPECT_NEAR(up, 36, 2);
  EXPECT_NEAR(band[0].altitude_deg, -band[36].altitude_deg, 1e-6);
}

TEST(Window, OfTheGalaxyEndsByTwoRules) {
  const Place head = demo_places()[1];
  for (const Window& w : windows_of(parse_day("2026-08-12"), head, 3600)) {
    if (w.kind != "milky way") continue;
    ASSERT_TRUE(w.other_to);
    EXPECT_GT(*w.other_to, w.to);
    EXPECT_NE(w.reason.find("an hour before sunrise"), std::string::npos);
    return;
  }
  ADD_FAILURE() << "no milky way in August";
}

TEST(NightSky, PlacesAreAsDarkAsTheirWords) {
  double before = 30;
  for (const PlaceDarkness& d : place_darknesses()) {
    EXPECT_LT(d.mag, before) << d.word;
    before = d.mag;
    EXPECT_DOUBLE_EQ(parse_darkness(d.word), d.mag);
    EXPECT_DOUBLE_EQ(parse_darkness(darkness_words(d.mag)), d.mag) << "as it is shown it can be typed";
  }
  EXPECT_DOUBLE_EQ(parse_darkness("21.3"), 21.3);
  for (const char* wrong : {"", "black", "9", "25"})
    EXPECT_EQ(test::error_of([&] { parse_darkness(wrong); }).kind(), Error::Kind::BadInput) << wrong;
}

TEST(NightSky, IsJoinedToTwilightWithoutAStep) {
  const Place quay = demo_places()[0];
  const Instant from = parse_wall_time("2026-10-09 17:00", quay.zone);
  const auto sky = ephemeris_for(from, later(from, 6 * 3600));
  double before = 99;
  for (int minute = 0; minute < 300; minute += 2) {
    const double ev =
        ev100_of_luminance(scene_luminance(*sky, later(from, minute * 60.0), quay, Cover::Clear, 0, {}));
    if (minute > 0) {
      EXPECT_LE(ev, before + 1e-6) << minute;
      EXPECT_LT(before - ev, 0.7) << minute;
    }
    before = ev;
  }
  EXPECT_NEAR(before, -9.2, 0.4);
}

}  // namespace
}  // namespace askcount::sky
