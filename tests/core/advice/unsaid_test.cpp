// SPDX-License-Identifier: GPL-3.0-or-later
// A take of which little is said: nothing of the demo is in it, and what is not said is not judged.
#include "advice/checklist.h"
#include "advice/light_advice.h"
#include "advice/plan_advice.h"
#include "advice/when.h"
#include "forecast/light.h"
#include "paper/calendar.h"
#include "paper/cards.h"
#include "paper/light_strip.h"
#include "support.h"

namespace askcount::advice {
namespace {

using plan::Slot;
using take::Take;

Take asked(const std::string& subject, std::initializer_list<std::pair<Slot, double>> said) {
  Take t;
  t.subject = subject;
  for (const auto& [slot, value] : said) t.wish(slot, value);
  return t;
}

const Finding* found_in(const Findings& list, const std::string& code) {
  const auto it = std::find_if(list.begin(), list.end(), [&](const Finding& f) { return f.code == code; });
  return it == list.end() ? nullptr : &*it;
}

/// Everything that is said about a take, in one text.
std::string all_words(const Take& t) {
  std::string words;
  const auto add = [&words](const Findings& list) {
    for (const Finding& f : list) words += f.title + " " + f.text + "\n";
  };
  add(plan_advice(t));
  add(light_advice(t, forecast::ramp_of(t)));
  add(cautions(t));
  for (const CheckItem& i : checklist_of(t)) words += i.what + " " + i.why + "\n";
  return words;
}

TEST(Unsaid, ANewTakeSaysNothing) {
  const Take t;
  EXPECT_FALSE(t.place.known());
  EXPECT_FALSE(t.knows_start());
  EXPECT_FALSE(t.knows_kit());
  EXPECT_FALSE(t.knows_timer());
  EXPECT_FALSE(t.metered);
  EXPECT_TRUE(t.subject.empty());
  EXPECT_TRUE(t.wishes.empty());
  const Json json = take::to_json(t);
  EXPECT_TRUE(json["place"].is_null());
  EXPECT_TRUE(json["kit"].is_null());
  EXPECT_EQ(json["start"], "");
  EXPECT_EQ(take::take_from_json(json, "new"), t);
}

TEST(Unsaid, KeepsAPlaceByItsCoordinatesWhereItHasNoName) {
  Json json = take::to_json(take::demo_take());
  json["place"]["name"] = "";
  const Take t = take::take_from_json(json, "old");
  EXPECT_TRUE(t.place.known());
  EXPECT_EQ(t.place.name, sky::format_coordinates(t.place.latitude_deg, t.place.longitude_deg));
}

TEST(Unsaid, NothingOfTheDemoIsInUnlikeTakes) {
  const Take takes[] = {asked("the milky way", {{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 30}}),
                        asked("a building site", {{Slot::Clip, 30}, {Slot::Fps, 25}, {Slot::Interval, 1800}}),
                        asked("traffic", {{Slot::Clip, 10}, {Slot::Fps, 30}, {Slot::Interval, 1}}),
                        asked("seedlings", {{Slot::Clip, 12}, {Slot::Fps, 24}, {Slot::Interval, 300}})};
  for (const Take& t : takes) {
    const std::string words = all_words(t);
    for (const char* leak : {"Never look at the sun", "tide line", "slow clouds", "Cell A", "Grey",
                             "Tern Quay", "Stand-in", "Shingle 64", "gets dark while"})
      EXPECT_EQ(words.find(leak), std::string::npos) << t.subject << ": " << leak << "\n" << words;
    for (const Finding& f : plan_advice(t))
      EXPECT_NE(f.severity, Severity::Stop) << t.subject << ": " << f.title << ": " << f.text;
  }
}

TEST(Unsaid, BudgetsWithoutAKitAreExamples) {
  // 30 days on an example battery: shown, not judged.
  const Take t = asked("building site", {{Slot::Clip, 30}, {Slot::Fps, 25}, {Slot::Interval, 3600}});
  const auto budgets = forecast::budgets_of(t, t.sums());
  ASSERT_FALSE(budgets.empty());
  for (const plan::Budget& b : budgets) EXPECT_TRUE(b.example) << b.name;
  EXPECT_TRUE(forecast::swaps_of(t, t.sums()).empty());
  const Findings list = plan_advice(t);
  ASSERT_TRUE(found_in(list, "budgets_are_examples"));
  EXPECT_EQ(found_in(list, "budgets_are_examples")->severity, Severity::Ok);
  EXPECT_FALSE(found_in(list, "battery_ends"));
  // With a kit the same battery is a stop.
  Take own = t;
  own.kit = plan::example_kit();
  EXPECT_TRUE(found_in(plan_advice(own), "battery_ends"));
  // A timer that was named is no example, with or without a kit.
  Take timed = asked("clouds", {{Slot::Frames, 1000}, {Slot::Fps, 25}, {Slot::Interval, 5}});
  EXPECT_FALSE(found_in(plan_advice(timed), "timer_ends"));
  timed.timer = "Tidewatch cable";
  EXPECT_TRUE(found_in(plan_advice(timed), "timer_ends"));
}

TEST(Unsaid, WhatNeedsACameraIsOnlyWarnedOf) {
  Take t = asked("clouds", {{Slot::Frames, 100}, {Slot::Fps, 25}, {Slot::Interval, 4}, {Slot::Shutter, 3.7}});
  ASSERT_TRUE(found_in(plan_advice(t), "camera_busy"));
  EXPECT_EQ(found_in(plan_advice(t), "camera_busy")->severity, Severity::Warning);
  t.wish(Slot::Shutter, 4.5);  // that is so with any camera
  EXPECT_EQ(found_in(plan_advice(t), "shutter_longer_than_interval")->severity, Severity::Stop);
  t.kit = plan::demo_kit();
  t.wish(Slot::Shutter, 3.7);
  EXPECT_EQ(found_in(plan_advice(t), "camera_busy")->severity, Severity::Stop);
}

TEST(Unsaid, TheLightAsksForPlaceAndTime) {
  const Take t = asked("clouds", {{Slot::Clip, 10}, {Slot::Fps, 25}, {Slot::Interval, 5}});
  EXPECT_TRUE(found_in(light_advice(t, forecast::ramp_of(t)), "sky_unknown"));
  EXPECT_EQ(forecast::ramp_of(t).ev.size(), 0u);
  const test::Folder folder;
  for (const auto& refuses : std::initializer_list<std::function<void()>>{
           [&] { forecast::light_of(t); }, [&] { windows_for(t); }, [&] { nights_for(t, 3); },
           [&] { paper::calendar_text(t); },
           [&] { paper::write_cue_card(t, forecast::ramp_of(t), folder / "c.pdf"); },
           [&] { paper::write_light_strip(t, 400, folder / "l.png"); }})
    EXPECT_EQ(test::error_of(refuses).kind(), Error::Kind::BadInput);
  EXPECT_TRUE(folder.names().empty());
  // The plan's sheet says what there is.
  paper::write_plan_sheet(t, folder / "p.pdf");
  const std::string text = test::run("pdftotext -layout " + (folder / "p.pdf").string() + " -").out;
  EXPECT_NE(text.find("not set yet"), std::string::npos) << text;
  EXPECT_EQ(text.find("1970"), std::string::npos);
  EXPECT_EQ(text.find("1 Jan"), std::string::npos);
}

TEST(Unsaid, TheStandInShootsInItsOwnWorld) {
  Take t = asked("clouds", {{Slot::Frames, 4}, {Slot::Fps, 25}, {Slot::Interval, 5}});
  EXPECT_EQ(forecast::world_of(t).place.name, "Tern Quay");
  EXPECT_EQ(format_iso(forecast::world_of(t).start, forecast::world_of(t).place.zone).substr(0, 16),
            "2026-10-09T17:50");
  t.start = parse_wall_time("2026-11-02 09:00", "UTC");
  EXPECT_EQ(forecast::world_of(t).start, t.start);
}

TEST(Unsaid, TheMeterStaysAtItsHourWhenTheStartMoves) {
  Take t = take::demo_take();
  ASSERT_FALSE(t.light.source.anchor) << "it was read at the first shot";
  const Instant read = t.start;
  const double before = forecast::light_of(t)[0];
  take::start_at(t, later(t.start, 1800));
  ASSERT_TRUE(t.light.source.anchor);
  EXPECT_EQ(t.light.source.anchor->at, read);
  EXPECT_NEAR(t.light.source.anchor->ev, before, 1e-6);
  EXPECT_LT(forecast::light_of(t)[0], before - 1) << "half an hour nearer to sunset";
  take::meter(t, {1.0 / 60, 8, 100});
  EXPECT_FALSE(t.light.source.anchor);
  EXPECT_NEAR(forecast::light_of(t)[0], ramp::ev_of_exposure(1.0 / 60, 8, 100), 1e-6);
}

}  // namespace
}  // namespace askcount::advice
