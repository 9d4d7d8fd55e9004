// SPDX-License-Identifier: GPL-3.0-or-later
// Kit, exposure, shot cycle, budgets and habits, against worked sums.
#include <cmath>
#include <functional>

#include "advice/film_advice.h"
#include "advice/plan_advice.h"
#include "plan/budgets.h"
#include "plan/exposure_match.h"
#include "plan/kit.h"
#include "plan/subject.h"
#include "support.h"
#include "take/fix.h"

namespace askcount::plan {
namespace {

const Finding* find(const Findings& list, const std::string& code) {
  for (const Finding& f : list)
    if (f.code == code) return &f;
  return nullptr;
}

Sums sums_for(std::initializer_list<std::pair<Slot, double>> said, const ShotShape& shape = {}) {
  std::vector<Wish> wishes;
  for (const auto& [slot, value] : said) wishes.push_back({slot, value, true});
  return sums_of(solve(wishes, shape), shape);
}

TEST(Kit, ComesBackAndNamesWhatIsWrong) {
  EXPECT_EQ(kit_from_json(to_json(demo_kit()), "kit"), demo_kit());
  const auto refused = [](const std::function<void(Json&)>& spoil, const char* word) {
    Json json = to_json(demo_kit());
    spoil(json);
    const Error e = test::error_of([&] { kit_from_json(json, "my-kit.json"); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput);
    EXPECT_NE(std::string(e.what()).find("my-kit.json"), std::string::npos);
    EXPECT_NE(std::string(e.what()).find(word), std::string::npos) << e.what();
  };
  refused([](Json& j) { j["bodies"] = Json::array(); }, "bodies");
  refused([](Json& j) { j["bodies"][0]["raw_mb"] = -3; }, "bodies[0].raw_mb");
  refused([](Json& j) { j["bodies"][0]["pixels_across"] = "many"; }, "pixels_across");
  refused([](Json& j) { j["lenses"][1]["smallest_f"] = 1.2; }, "Stand-in 50 mm");
  refused([](Json& j) { j["filters"][2]["name"] = "Grey 3"; }, "two filters");
  refused([](Json& j) { j["cards"][0].erase("name"); }, "cards[0].name");
  refused([](Json& j) { j["askcount_kit"] = 9; }, "newer");
  refused([](Json& j) { j.erase("askcount_kit"); }, "not a kit");
}

TEST(Exposure, IsReadAsPhotographersWriteIt) {
  for (const char* text : {"1/125,f8,iso100", "f/8, 1/125 s, ISO 100", "iso100,1/125,f8"})
    EXPECT_EQ(parse_metered(text), (Metered{1 / 125.0, 8, 100})) << text;
  for (const char* text : {"", "1/125", "f8,iso100", "1/125,f8,isox", "bright"})
    EXPECT_EQ(test::error_of([&] { parse_metered(text); }).kind(), Error::Kind::BadInput) << text;
}

/// Whatever is matched lets through just the light the meter asked for.
TEST(Exposure, MatchesTheMetersLight) {
  for (double wanted = 1 / 500.0; wanted < 60; wanted *= 1.31)
    for (const double metered_s : {1 / 1000.0, 1 / 125.0, 1 / 4.0, 4.0}) {
      const Metered metered{metered_s, 8, 100};
      const ExposureMatch m = match_exposure(metered, wanted, demo_kit());
      const double before =
          std::log2(metered.shutter_s * metered.iso / (metered.f_number * metered.f_number));
      const double after =
          std::log2(m.setting.shutter_s * m.setting.iso / (m.setting.f_number * m.setting.f_number)) -
          m.filter_stops;
      EXPECT_NEAR(after - before, m.missing_stops, 1 / 6.0 + 1e-6);
      EXPECT_NEAR(m.stops, std::log2(wanted / metered_s), 1e-9);
      EXPECT_GE(m.setting.f_number, 2.8 * 0.999);
      EXPECT_LE(m.setting.f_number, 22 * 1.001);
      EXPECT_LE(m.filters.size(), 3u);
    }
}

TEST(Exposure, StacksTheFiltersThatAreOwned) {
  // 1/125 s to 2.5 s is log2(312.5) = 8.29 stops.
  const ExposureMatch m = match_exposure({1 / 125.0, 8, 100}, 2.5, demo_kit());
  EXPECT_NEAR(m.stops, 8.29, 0.01);
  EXPECT_EQ(m.missing_stops, 0);
  ASSERT_FALSE(m.filters.empty());
  // ISO comes down before anything is screwed on.
  const ExposureMatch down = match_exposure({1 / 125.0, 8, 800}, 1 / 15.0, demo_kit());
  EXPECT_TRUE(down.filters.empty());
  EXPECT_NEAR(down.setting.iso, 100, 1);
  // A kit without filters: said plainly, with the nearest that works.
  Kit bare = demo_kit();
  bare.filters.clear();
  const ExposureMatch no = match_exposure({1 / 500.0, 11, 100}, 5, bare);
  EXPECT_GT(no.missing_stops, 8);
  const Findings said = judge(no, 5, bare);
  ASSERT_TRUE(find(said, "no_filter_gets_there"));
  EXPECT_EQ(
      match_exposure({1 / 500.0, 11, 100}, std::get<fix::SetSlot>(*said[0].fix).value, bare).missing_stops,
      0);
  EXPECT_TRUE(find(said, "diffraction"));
  EXPECT_TRUE(find(said, "dust"));
  // The test exposure is as bright.
  const Metered t = test_exposure(m.setting, demo_kit());
  EXPECT_NEAR(t.shutter_s * t.iso, m.setting.shutter_s * m.setting.iso, 1e-6);
  EXPECT_LT(t.shutter_s, 0.05);
}

TEST(Stars, DriftAsTheSkyTurns) {
  // 24 mm and 6 µm pixels: 51.57″ a pixel; 20 s at the celestial equator is 5.8 pixels, none at the pole.
  EXPECT_NEAR(star_drift_px(20, 24, 6, 0), 20 * 15.041 / (206.265 * 6 / 24), 1e-6);
  EXPECT_NEAR(star_drift_px(20, 24, 6, 60), star_drift_px(20, 24, 6, 0) / 2, 1e-6);
  EXPECT_NEAR(star_drift_px(20, 24, 6, 90), 0, 1e-6);
  const StarRules methods = star_rules(demo_kit().bodies[0], demo_kit().lenses[0], 2.8);
  EXPECT_NEAR(methods.by_500, 500 / 24.0, 1e-9);
  EXPECT_NEAR(methods.by_600, 25, 1e-9);
  EXPECT_NEAR(methods.by_pixel, (35 * 2.8 + 30 * 6.0) / 24, 1e-9);
}

TEST(Depth, FollowsTheThinLens) {
  const Body body = demo_kit().bodies[0];
  // 24 mm at f/8 with 30 µm of blur: hyperfocal 24² ÷ (8 × 0.03) + 24 mm = 2.424 m; focused there, half of it
  // is near.
  const Depth d = depth_of_field(body, 24, 8, 2.424, 30);
  EXPECT_NEAR(d.hyperfocal_m, 2.424, 1e-9);
  EXPECT_NEAR(d.near_m, 1.212, 0.01);
  EXPECT_TRUE(std::isinf(d.far_m));
  const Depth near = depth_of_field(body, 50, 2.8, 3, 30);
  EXPECT_NEAR(near.near_m, 2.73, 0.02);
  EXPECT_NEAR(near.far_m, 3.33, 0.02);
}

TEST(Cycle, CountsBracketsDarkFramesAndFiles) {
  ShotMake make;
  parse_brackets("3x2", make);
  EXPECT_EQ(bracket_shutters(make, 1), (std::vector<Seconds>{0.25, 1, 4}));
  EXPECT_NEAR(cycle_of(make, Body{}, nullptr, 1).open_s, 5.25 + 0.5, 1e-9);
  ShotMake dark;
  dark.dark_frames = true;
  const ShotCycle c = cycle_of(dark, Body{}, nullptr, 10);
  EXPECT_NEAR(c.shortest_interval_s(), 20.6, 1e-9);
  EXPECT_EQ(judge_cycle(c, 15).code, "camera_busy");
  EXPECT_EQ(judge_cycle(c, 25).code, "camera_keeps_up");
  EXPECT_EQ(judge_cycle(c, 9).code, "shutter_longer_than_interval");
  EXPECT_GE(std::get<fix::SetSlot>(*judge_cycle(c, 9).fix).value, 20.6);
  // 3 × 28 MB at 30 MB/s: 2.8 s a shot, however fast the shutter.
  Card slow{"slow", 64, 30};
  EXPECT_NEAR(cycle_of(make, Body{}, &slow, 0.001).sustained_s, 2.8, 1e-9);
  EXPECT_EQ(judge_cycle(cycle_of(make, Body{}, &slow, 0.001), 2.5).code, "camera_keeps_up")
      << "the buffer is a budget";
  for (const char* text : {"", "3", "0x2", "3x9", "99x1", "x"})
    EXPECT_EQ(test::error_of([&] { parse_brackets(text, make); }).kind(), Error::Kind::BadInput) << text;
}

TEST(Budgets, KnowThatABracketIsThreeExposures) {
  ShotMake make;
  parse_brackets("3x2", make);
  const ShotShape shape = shape_of(make, 0);
  const Sums sums =
      sums_for({{Slot::Frames, 420}, {Slot::Fps, 25}, {Slot::Interval, 20}, {Slot::Shutter, 0.1}}, shape);
  EXPECT_EQ(to_json(sums)["exposures"], 1260);
  Kit kit = demo_kit();
  kit.batteries = {{"one", 900, 10}};
  kit.bodies[0].next_file_number = 9871;  // 129 numbers are left
  const auto list = budgets_of(sums, make, kit, {20, false, 399, 0, false});
  const auto ends = [&](const std::string& name) -> std::optional<long long> {
    for (const Budget& b : list)
      if (b.name == name) return b.ends_at_frame;
    ADD_FAILURE() << name;
    return {};
  };
  EXPECT_EQ(ends("battery"), 300);  // 900 exposures
  EXPECT_EQ(ends("timer"), 399);
  EXPECT_EQ(ends("file numbers"), 43);
  EXPECT_FALSE(ends("card"));  // 64 GB for 1,260 × 28 MB
  EXPECT_FALSE(ends("shutter life"));
  const Findings said = judge(list, sums, make, kit, {20, false, 399, 0, false});
  EXPECT_NE(find(said, "numbers_roll_over")->text.find("before anything else"), std::string::npos);
  EXPECT_NE(find(said, "battery_ends")->title.find("frame 300"), std::string::npos);
}

TEST(Budgets, KnowHoursColdSparesAndPower) {
  const Sums slow =
      sums_for({{Slot::Frames, 600}, {Slot::Fps, 25}, {Slot::Interval, 60}, {Slot::Shutter, 0.1}});
  Kit kit = demo_kit();
  kit.batteries = {{"one", 900, 5}};
  const auto battery = [&](double celsius, bool external) {
    return budgets_of(slow, {}, kit, {celsius, external, 0, 0, false}).front();
  };
  EXPECT_EQ(battery(20, false).ends_at_frame, 300);  // five hours, one a minute
  EXPECT_EQ(battery(0, false).ends_at_frame, 210);   // 70 % at freezing
  EXPECT_FALSE(battery(20, true).ends_at_frame);
  kit.batteries.push_back({"two", 900, 5});
  EXPECT_FALSE(battery(20, false).ends_at_frame);
  const Findings said = judge(budgets_of(slow, {}, kit, {}), slow, {}, kit, {20, false, 0, 0, false});
  ASSERT_TRUE(find(said, "swap_battery"));
  EXPECT_NE(find(said, "swap_battery")->text.find("298"), std::string::npos);
}

TEST(Spare, IsInTheCountAndNotInTheFilm) {
  const Sums sums = sums_for({{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 5}, {Slot::Trail, 0.5}},
                             shape_of({}, 25));
  EXPECT_EQ(sums.frames, 250);
  EXPECT_EQ(shots_of(sums), 300);
  EXPECT_NEAR(sums.field_s, 299 * 5 + 2.5, 1e-9);
  EXPECT_NEAR(sums.clip_s, 10, 1e-9);
}

TEST(Habits, AreThereForWhatPeopleShoot) {
  EXPECT_EQ(habits_for("clouds").size(), 2u);  // two methods
  EXPECT_EQ(habits_for("Crowds at the market").size(), 1u);
  EXPECT_EQ(habits_for("sunset").front().from_s, 5);
  EXPECT_TRUE(habits_for("a thing nobody shoots").empty());
  const Sums far = sums_for({{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 40}});
  const Findings off = advice::judge_habit(far, "crowds", 0.6);
  ASSERT_EQ(off.size(), 1u);
  EXPECT_EQ(off[0].code, "habit_differs");
  const Sums near = sums_for(
      {{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, std::get<fix::SetSlot>(*off[0].fix).value}});
  EXPECT_EQ(advice::judge_habit(near, "crowds", 0.6)[0].code, "habit_agrees");
}

TEST(Advice, FixesWhatItStops) {
  take::Take take = take::demo_take();
  take.wish(Slot::Shutter, 30);
  const Findings before = advice::plan_advice(take);
  ASSERT_EQ(before.front().severity, Severity::Stop);
  take = take::with_fix(take, *before.front().fix);
  for (const Finding& f : advice::plan_advice(take)) EXPECT_NE(f.severity, Severity::Stop) << f.text;
  // Pins that contradict each other are named, not silently dropped.
  take = take::demo_take();
  take.pin(Slot::Clip, true);
  take.wish(Slot::Frames, 100);
  take.pin(Slot::Frames, true);
  ASSERT_TRUE(find(advice::plan_advice(take), "pins_conflict"));
  EXPECT_NE(find(advice::plan_advice(take), "pins_conflict")->text.find("clip of 10 s"), std::string::npos)
      << find(advice::plan_advice(take), "pins_conflict")->text;
}

TEST(Advice, ATimerTheKitDoesNotHaveIsNotPassedOver) {
  take::Take take = take::demo_take();
  EXPECT_TRUE(advice::judge_timer_name(take).empty());
  take.timer = "Nobody's cable";
  const Findings list = advice::plan_advice(take);
  const Finding* f = find(list, "timer_unknown");
  ASSERT_TRUE(f);
  EXPECT_EQ(f->severity, Severity::Stop);
  EXPECT_NE(f->text.find("Nobody's cable"), std::string::npos);
  ASSERT_TRUE(f->fix);
  const take::Take after = take::with_fix(take, *f->fix);
  EXPECT_EQ(after.timer, take.timer_model().name);
  EXPECT_FALSE(find(advice::plan_advice(after), "timer_unknown"));
}

TEST(Advice, SaysForHowMuchOfTheFilmNeighboursStandIn) {
  media::FilmFacts facts;
  facts.frames = 250;
  facts.size = {1920, 1080};
  facts.fps = {25, 1};
  const take::Take take = take::demo_take();
  // Another length, another codec, another rate than the take wishes.
  const auto outdated = [&](const take::Take& t, size_t frames) {
    const Findings said = advice::film_advice(t, t.film, facts, 0, {1500, 1000}, frames);
    return find(said, "film_outdated") != nullptr;
  };
  facts.codec = "h264";
  facts.size = take.film.size;
  EXPECT_FALSE(outdated(take, static_cast<size_t>(facts.frames)));
  EXPECT_TRUE(outdated(take, static_cast<size_t>(facts.frames) + 5));
  take::Take other = take;
  other.film.coding.codec = media::Codec::Av1;
  EXPECT_TRUE(outdated(other, 0));
  other = take;
  other.film.fps = FrameRate{30, 1};
  EXPECT_TRUE(find(advice::film_advice(other, other.film, {}, 0, {1500, 1000}, 250), "other_rate"));
  render::FilmOutcome outcome;
  EXPECT_TRUE(advice::outcome_advice(outcome, {1920, 1080}, {6000, 4000}).empty());
  outcome.steadied = render::FilmOutcome::Steadied{7.5, 0.125, 0.011};
  outcome.made = 2;
  const Findings still = advice::outcome_advice(outcome, {1920, 1080}, {6000, 4000});
  ASSERT_EQ(still.size(), 2u);
  EXPECT_EQ(still[0].text, "2.4 px from frame to frame before, 0.04 after. It crops 1.1 % at the edges.");
  EXPECT_EQ(still[0].severity, Severity::Ok);
  EXPECT_EQ(still[1].title, "2 frames made from neighbours");
  outcome.steadied->edge = 0.3;
  EXPECT_EQ(advice::outcome_advice(outcome, {1920, 1080}, {6000, 4000})[0].severity, Severity::Warning);
  EXPECT_FALSE(find(advice::film_advice(take, take.film, facts, 0, {1500, 1000}), "neighbours_stand_in"));
  const Findings list = advice::film_advice(take, take.film, facts, 5, {1500, 1000});
  const Finding* f = find(list, "neighbours_stand_in");
  ASSERT_TRUE(f);
  EXPECT_NE(f->text.find("2 % of the film"), std::string::npos) << f->text;
  EXPECT_NE(f->text.find("10 %"), std::string::npos) << f->text;
}

TEST(Errors, AreReadableWhateverIsInThem) {
  const std::string what =
      bad_input("There is no place \"" + std::string(100000, 'a') + "\".", "Write one.").what();
  EXPECT_LT(what.size(), 300u);
  EXPECT_TRUE(what.starts_with("There is no place \"aaa"));
  EXPECT_TRUE(what.ends_with("aaa\". Write one."));
  // Not cut within a letter of several bytes, wherever the middle falls.
  for (int shift = 0; shift < 3; ++shift) {
    std::string word(static_cast<size_t>(shift), 'x');
    for (int i = 0; i < 500; ++i) word += "語";
    const std::string cut = failed(word).what();
    for (size_t i = static_cast<size_t>(shift); i < cut.size(); i += 3)
      EXPECT_EQ(static_cast<unsigned char>(cut[i]) & 0xF0, 0xE0) << shift << " " << i;
  }
  EXPECT_EQ(std::string(bad_input("Short.", "Do.").what()), "Short. Do.");
}

}  // namespace
}  // namespace askcount::plan
