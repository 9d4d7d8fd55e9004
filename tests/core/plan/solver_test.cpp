// SPDX-License-Identifier: GPL-3.0-or-later
// The relations between the slots, against worked sums.
#include "plan/solver.h"

#include <random>

#include "plan/nudge.h"
#include "plan/rulers.h"
#include "plan/sums.h"
#include "support.h"

namespace askcount::plan {
namespace {

std::vector<Wish> pinned(std::initializer_list<std::pair<Slot, double>> said) {
  std::vector<Wish> wishes;
  for (const auto& [slot, value] : said) wishes.push_back({slot, value, true});
  return wishes;
}

Sums sums(std::initializer_list<std::pair<Slot, double>> said) {
  return sums_of(solve(pinned(said)));
}

TEST(Solver, WorksTheSumsOfTheField) {
  // Clouds: 8 min across the frame, 4 s across the screen, 10 s of film at 25 fps, half a step of trail.
  const Sums clouds = sums({{Slot::Clip, 10},
                            {Slot::Fps, 25},
                            {Slot::FieldCrossing, 480},
                            {Slot::ScreenCrossing, 4},
                            {Slot::Trail, 0.5}});
  EXPECT_EQ(clouds.frames, 250);
  EXPECT_NEAR(clouds.interval_s, 4.8, 1e-12);
  EXPECT_NEAR(clouds.shutter_s, 2.4, 1e-12);
  EXPECT_NEAR(clouds.field_s, 249 * 4.8 + 2.4, 1e-9);
  EXPECT_NEAR(*clouds.step, 0.01, 1e-12);
  EXPECT_NEAR(clouds.speed_up, 120, 1e-9);
  // 20 s open and a 4 s gap: a frame every 24 s, and 300 take 1 h 59 min 56 s.
  const Sums stars = sums({{Slot::Frames, 300}, {Slot::Fps, 25}, {Slot::Shutter, 20}, {Slot::Gap, 4}});
  EXPECT_NEAR(stars.interval_s, 24, 1e-12);
  EXPECT_NEAR(stars.field_s, 7196, 1e-9);
  // A timer that stops at 600 and a battery good for 4 hours: 24 s.
  EXPECT_NEAR(sums({{Slot::Frames, 600}, {Slot::Field, 14400}, {Slot::Fps, 24}}).interval_s, 24, 0.05);
  // Camera movie mode: 40 minutes at 8 s is 12.5 s at 24 fps.
  EXPECT_NEAR(sums({{Slot::Field, 2400}, {Slot::Interval, 8}, {Slot::Shutter, 0.01}, {Slot::Fps, 24}}).clip_s,
              12.5, 0.01);
}

TEST(Solver, CountsFramesExactly) {
  const auto frames = [](double clip, double num, double den) {
    return sums({{Slot::Clip, clip}, {Slot::Fps, num / den}, {Slot::Interval, 5}}).frames;
  };
  EXPECT_EQ(frames(120, 25, 1), 3000);
  EXPECT_EQ(frames(10, 30000, 1001), 300);
  EXPECT_EQ(frames(1001, 24000, 1001), 24000);
  EXPECT_EQ(frames(0.1, 30, 1), 3);
  EXPECT_EQ(frames(7.3, 24, 1), 176);
  EXPECT_EQ(frames(0.001, 25, 1), 1);
  EXPECT_EQ(frames(4e7, 25, 1), 1000000000);
  // What the film really lasts, not what was asked.
  EXPECT_NEAR(sums({{Slot::Clip, 10}, {Slot::Fps, 30000.0 / 1001}, {Slot::Interval, 2}}).clip_s, 10.01, 1e-9);
}

/// Whatever set of slots of a real take is given, either too little is known or the same take comes back.
TEST(Solver, AnySufficientSetGivesTheSameTake) {
  std::mt19937 random(3);
  int complete = 0;
  for (int round = 0; round < 3000; ++round) {
    const auto pick = [&random](std::initializer_list<double> v) {
      return *(v.begin() + random() % v.size());
    };
    const Solution whole = solve(pinned({{Slot::Frames, static_cast<double>(2 + random() % 5000)},
                                         {Slot::Fps, pick({24, 25, 30, 60, 24000.0 / 1001})},
                                         {Slot::Interval, pick({0.7, 2, 4.8, 20, 900})},
                                         {Slot::ScreenCrossing, pick({2.5, 4, 7})},
                                         {Slot::Trail, pick({0.02, 0.25, 0.5, 0.8})}}));
    ASSERT_TRUE(whole.complete());
    std::vector<Wish> some;
    for (const Slot slot : kAllSlots)
      if (random() % 2) some.push_back({slot, *whole[slot], true});
    std::shuffle(some.begin(), some.end(), random);
    const Solution again = solve(some, {}, *whole[Slot::Trail]);
    EXPECT_TRUE(again.conflicts.empty());
    if (!again.complete()) {
      EXPECT_FALSE(missing_words(again).empty());
      continue;
    }
    ++complete;
    for (const Slot slot : kAllSlots) {
      if (!again[slot]) continue;
      EXPECT_NEAR(*again[slot] / *whole[slot], 1, slot == Slot::Frames ? 0 : 1e-6) << slot_word(slot);
    }
  }
  EXPECT_GT(complete, 1500);
}

TEST(Solver, SaysWhatIsMissing) {
  const auto words = [](std::initializer_list<std::pair<Slot, double>> said) {
    return missing_words(solve(pinned(said)));
  };
  EXPECT_NE(words({{Slot::Clip, 10}, {Slot::Fps, 25}}).find("--interval"), std::string::npos);
  EXPECT_NE(words({{Slot::Clip, 10}, {Slot::Interval, 5}}).find("--fps"), std::string::npos);
  EXPECT_NE(words({{Slot::Fps, 25}, {Slot::Interval, 5}}).find("--frames"), std::string::npos);
  EXPECT_EQ(words({{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 5}}), "");
}

TEST(Solver, NamesWhatContradicts) {
  const auto wishes = pinned({{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 5}, {Slot::Frames, 240}});
  const Solution s = solve(wishes);
  ASSERT_EQ(s.conflicts.size(), 1u);
  const std::string words = conflict_words(s.conflicts[0], wishes);
  EXPECT_NE(words.find("--frames 240"), std::string::npos) << words;
  EXPECT_NE(words.find("--clip 10 s"), std::string::npos) << words;
  EXPECT_NE(words.find("--fps"), std::string::npos) << words;
  EXPECT_EQ(words.find("--interval"), std::string::npos) << words;  // has nothing to do with it
  EXPECT_NE(words.find("250 frames"), std::string::npos) << words;
  // Saying the same thing twice is no contradiction.
  EXPECT_TRUE(solve(pinned({{Slot::Clip, 10},
                            {Slot::Fps, 25},
                            {Slot::Frames, 250},
                            {Slot::Interval, 5},
                            {Slot::SpeedUp, 125}}))
                  .conflicts.empty());
}

TEST(Solver, TheLatestWishHoldsAndTheRestGiveWay) {
  // Newest first: the interval was said last, so the crossing that would make it 4.8 s gives way.
  const Solution s = solve({{Slot::Interval, 6, false},
                            {Slot::Clip, 10, false},
                            {Slot::Fps, 25, false},
                            {Slot::FieldCrossing, 480, false},
                            {Slot::ScreenCrossing, 4, false}});
  EXPECT_DOUBLE_EQ(*s[Slot::Interval], 6);
  EXPECT_EQ(s.gave_way, std::vector<Slot>{Slot::ScreenCrossing});
  EXPECT_NEAR(*s[Slot::ScreenCrossing], 480 / 150.0, 1e-9);
}

TEST(Solver, RefusesValuesNoSlotCanTake) {
  for (const auto& [slot, value] : {std::pair{Slot::Clip, 0.0},
                                    {Slot::Interval, -1.0},
                                    {Slot::Frames, 2.5},
                                    {Slot::Fps, 5000.0},
                                    {Slot::Step, 2.0},
                                    {Slot::Field, 1e13}})
    EXPECT_EQ(test::error_of([&, s = slot, v = value] {
                solve({{s, v, true}});
              }).kind(),
              Error::Kind::BadInput)
        << slot_word(slot);
}

const Finding* found_in(const Findings& list, const std::string& code) {
  for (const Finding& f : list)
    if (f.code == code) return &f;
  return nullptr;
}

TEST(Judgement, KnowsTimersThatCountWholeSeconds) {
  const Findings list = judge(sums({{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 4.8}}));
  ASSERT_TRUE(found_in(list, "interval_not_whole"));
  EXPECT_DOUBLE_EQ(std::get<fix::SetSlot>(*found_in(list, "interval_not_whole")->fix).value, 5);
  EXPECT_FALSE(
      found_in(judge(sums({{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 5}})), "interval_not_whole"));
}

TEST(Nudge, GoesUpAndComesBackAndStaysWritable) {
  for (const Slot slot : kAllSlots) {
    double v = slot == Slot::Fps ? 25 : slot == Slot::Trail ? 0.5 : slot == Slot::Step ? 0.01 : 8;
    const double up = nudged(slot, v, 1);
    EXPECT_GT(up, v) << slot_word(slot);
    EXPECT_NEAR(nudged(slot, up, -1), v, v * 1e-9) << slot_word(slot);
    for (int i = 0; i < 400; ++i) check_slot(slot, v = nudged(slot, v, i < 200 ? -1 : 3));
  }
}

TEST(Rulers, CarryTicksAndThreadsThatFit) {
  for (double field = 1; field < 40 * 86400; field *= 2.3) {
    const Ruler r = field_ruler(65000, field);
    EXPECT_LE(r.from, 65000);
    EXPECT_GE(r.to, 65000 + field);
    EXPECT_GE(r.ticks().size(), 2u) << field;
    EXPECT_LE(r.ticks().size(), 16u) << field;
  }
  const auto chosen = threads(250, 41);
  EXPECT_EQ(chosen.size(), 41u);
  EXPECT_EQ(chosen.front(), 0);
  EXPECT_EQ(chosen.back(), 249);
  EXPECT_EQ(threads(3, 41), (std::vector<long long>{0, 1, 2}));
  for (const double t : {0.5, 4.8, 3600.0}) EXPECT_NEAR(interval_at(interval_place(t)), t, 1e-9);
}

}  // namespace
}  // namespace askcount::plan
