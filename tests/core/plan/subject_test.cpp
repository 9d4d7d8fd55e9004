// SPDX-License-Identifier: GPL-3.0-or-later
// What people call their subjects, and the habits that follow from it.
#include "plan/subject.h"

#include "advice/plan_advice.h"
#include "support.h"

namespace askcount::plan {
namespace {

std::set<std::string> names(std::string_view text) {
  std::set<std::string> set;
  for (const SubjectKind* k : kinds_of(text)) set.insert(k->name);
  return set;
}

bool is(std::string_view text, const char* kind) {
  return names(text).contains(kind);
}

TEST(Subject, IsFoundByWhatPeopleWrite) {
  const std::pair<const char*, const char*> cases[] = {
      {"people", "crowds"},
      {"People crossing the square", "crowds"},
      {"cars", "traffic"},
      {"Tail lights on the motorway", "traffic"},
      {"milky way", "stars"},
      {"The Milky Way over the hut", "stars"},
      {"seedlings", "plants growing"},
      {"flowers", "plants growing"},
      {"a rose in bloom", "plants growing"},
      {"construction site", "building site"},
      {"excavation", "building site"},
      {"rain clouds", "fast clouds"},
      {"rain clouds", "slow clouds"},
      {"day to night", "day into night"},
      {"Day into night", "day into night"},
      {"star trails", "star trails"},
      {"the alum crystals", "crystals"},
      {"boats on the flood", "boats"},
      {"ferries", "boats"},
      {"ice melting", "melting"},
      {"shadows", "shadows"},
  };
  for (const auto& [text, kind] : cases) EXPECT_TRUE(is(text, kind)) << text;
}

TEST(Subject, IsFoundByWholeWordsOnly) {
  EXPECT_TRUE(kinds_of("starlings at dusk over the pier").empty() == false);
  EXPECT_FALSE(is("starlings", "stars"));
  EXPECT_FALSE(is("carpets", "traffic"));
  EXPECT_FALSE(is("a boathouse", "boats"));
  EXPECT_FALSE(is("star trails", "stars")) << "the longer phrase says what it is";
  EXPECT_TRUE(kinds_of("").empty());
  EXPECT_TRUE(kinds_of("a thing nobody shoots").empty());
  EXPECT_TRUE(has_word("Tern Quay", {"quay"}));
  EXPECT_TRUE(has_word("two piers", {"pier"}));
  EXPECT_FALSE(has_word("Seaton", {"sea"}));
}

TEST(Subject, EveryNameOfTheTableFindsItself) {
  for (const SubjectKind& k : subject_kinds()) {
    EXPECT_TRUE(is(k.name, k.name)) << k.name;
    for (const char* word : k.words) EXPECT_TRUE(is(word, k.name)) << word;
    EXPECT_FALSE(habits_for(k.name).empty()) << k.name;
    for (const Habit& h : habits_for(k.name)) EXPECT_LE(h.from_s, h.to_s) << k.name;
  }
}

TEST(Subject, StarsFollowTheShutter) {
  for (const double shutter : {8.0, 15.0, 25.0}) {
    const Habit points = habits_for("stars", {shutter, 0.6}).front();
    EXPECT_DOUBLE_EQ(points.from_s, shutter + 1);
    EXPECT_DOUBLE_EQ(points.to_s, shutter + 5);
    const Habit trails = habits_for("star trails", {shutter, 0.6}).front();
    EXPECT_DOUBLE_EQ(trails.from_s, shutter + 0.6);
    EXPECT_LT(trails.to_s, shutter + 2);
  }
}

take::Take asked(const std::string& subject, double interval) {
  take::Take t;
  t.subject = subject;
  t.wish(Slot::Clip, 10);
  t.wish(Slot::Fps, 25);
  t.wish(Slot::Interval, interval);
  return t;
}

std::string words_of(const Findings& list) {
  std::string words;
  for (const Finding& f : list) words += f.code + ": " + f.title + " " + f.text + "\n";
  return words;
}

TEST(Subject, WhatHardlyMovesIsNotAskedForATrail) {
  for (const auto& [subject, interval] :
       {std::pair{"seedlings", 300.0}, {"shadows", 20.0}, {"building site", 1800.0}, {"crystals", 120.0}}) {
    take::Take t = asked(subject, interval);
    EXPECT_NEAR(t.sums().shutter_s, 1.0 / 60, 1e-9) << subject;
    std::string words = words_of(advice::plan_advice(t));
    EXPECT_EQ(words.find("choppy"), std::string::npos) << words;
    // Metered in full sun: no thirteen stops of filters either.
    take::meter(t, {1.0 / 250, 8, 100});
    EXPECT_NEAR(t.sums().shutter_s, 1.0 / 250, 1e-9) << subject;
    words = words_of(advice::plan_advice(t));
    EXPECT_EQ(words.find("stops of filters"), std::string::npos) << words;
  }
  EXPECT_NEAR(asked("clouds", 5).sums().shutter_s, 2.5, 1e-9);
  EXPECT_NEAR(asked("stars", 30).sums().shutter_s, 20, 1e-9) << "500 ÷ 24 mm";
  EXPECT_NEAR(asked("star trails", 32).sums().shutter_s, 30, 1e-9);
}

TEST(Subject, TheArcsOfStarTrailsWantNoGap) {
  take::Take t = asked("star trails", 35);
  t.wish(Slot::Shutter, 30);
  Findings list = advice::plan_advice(t);
  const auto broken = [&] {
    return std::find_if(list.begin(), list.end(), [](const Finding& f) { return f.code == "trails_broken"; });
  };
  ASSERT_NE(broken(), list.end()) << "a gap of 5 s";
  EXPECT_EQ(broken()->fix, Fix(fix::SetSlot{Slot::Gap, 1}));
  t.wish(Slot::Interval, 31);
  list = advice::plan_advice(t);
  EXPECT_EQ(broken(), list.end());
}

TEST(Subject, BothMethodsAreShownAndTheOneNearTheMotionNamed) {
  take::Take t = asked("clouds", 20);
  EXPECT_NE(words_of(advice::plan_advice(t)).find("1 s to 3 s for fast clouds"), std::string::npos);
  EXPECT_NE(words_of(advice::plan_advice(t)).find("5 s to 10 s for slow clouds"), std::string::npos);
  t.wish(Slot::FieldCrossing, 300);  // five minutes for the width: 300 ÷ 168 frames
  EXPECT_NE(words_of(advice::plan_advice(t)).find("nearer to fast clouds"), std::string::npos)
      << words_of(advice::plan_advice(t));
  t.wish(Slot::FieldCrossing, 1500);
  EXPECT_NE(words_of(advice::plan_advice(t)).find("nearer to slow clouds"), std::string::npos);
}

TEST(Subject, LettersInANameAreNoStars) {
  take::Take t = asked("starlings", 2);
  t.wish(Slot::Shutter, 30);
  EXPECT_EQ(words_of(advice::plan_advice(t)).find("Stars will be dashes"), std::string::npos);
  t.subject = "stars";
  EXPECT_NE(words_of(advice::plan_advice(t)).find("Stars will be dashes"), std::string::npos);
}

TEST(Field, ARoundIntervalIsPreferred) {
  const auto sums = [](std::initializer_list<Wish> wishes) { return sums_of(solve(wishes)); };
  // A day in two minutes at 30 fps: 24 s, whichever way it is counted.
  EXPECT_DOUBLE_EQ(sums({{Slot::Field, 86400}, {Slot::Clip, 120}, {Slot::Fps, 30}}).interval_s, 24);
  // Twenty minutes for 250 frames: 4.8 s by the rule of thumb, 19 min 57.6 s from opening to closing.
  const Sums s = sums({{Slot::Field, 1200}, {Slot::Frames, 250}, {Slot::Fps, 25}});
  EXPECT_NEAR(s.interval_s, 4.8, 1e-12);
  EXPECT_NEAR(s.field_s, 249 * 4.8 + 2.4, 1e-9);
  EXPECT_TRUE(s.trail_assumed);
  // No round one within a frame: exact.
  EXPECT_NEAR(sums({{Slot::Field, 1000}, {Slot::Frames, 7001}, {Slot::Fps, 25}}).interval_s, 1000 / 7000.5,
              1e-6);
  for (const Finding& f : judge(sums({{Slot::Field, 86400}, {Slot::Clip, 120}, {Slot::Fps, 30}})))
    EXPECT_NE(f.code, "interval_not_whole");
}

}  // namespace
}  // namespace askcount::plan
