// SPDX-License-Identifier: GPL-3.0-or-later
// The one action of a finding: what it changes, what it says, how it is kept.
#include "take/fix.h"

#include <set>

#include "base/json.h"
#include "support.h"

namespace askcount {
namespace {

/// One of every kind, with values that no field has by itself.
std::vector<Fix> one_of_each() {
  std::vector<Fix> list;  // not a list of 24 braces: compilers take minutes over what each may throw
  list.emplace_back(fix::SetSlot{Slot::Trail, 0.5});
  list.emplace_back(fix::Release{Slot::Gap});
  list.emplace_back(fix::RunEndless{});
  list.emplace_back(fix::UseTimer{"Field radio"});
  list.emplace_back(fix::StartAt{parse_wall_time("2026-10-09 18:05", "Europe/London"), "Europe/London"});
  list.emplace_back(fix::AimAt{211, 14});
  list.emplace_back(fix::SetSubject{"slow clouds", 7});
  list.emplace_back(fix::LetCameraExpose{});
  list.emplace_back(fix::TurnEvery{7});
  list.emplace_back(fix::AllowIso{3200});
  list.emplace_back(fix::RedoClicks{});
  list.emplace_back(fix::LeaveOut{"a.jpg", false});
  list.emplace_back(fix::Keep{"b.jpg", false});
  list.emplace_back(fix::StandIn{"c.jpg", false});
  list.emplace_back(fix::CallFine{"d.jpg", false});
  list.emplace_back(fix::BeginAt{"e.jpg"});
  list.emplace_back(fix::EndAt{"f.jpg"});
  list.emplace_back(fix::ChooseTake{4});
  list.emplace_back(fix::JoinTakes{2, 5});
  list.emplace_back(fix::SetClock{-3600.5});
  list.emplace_back(fix::UseSource{"/cards/one"});
  list.emplace_back(fix::TakeEvery{25});
  list.emplace_back(fix::SmoothChange{31, false});
  list.emplace_back(fix::KeepChange{32, false});
  list.emplace_back(fix::UndoLens{false});
  list.emplace_back(fix::Learn{fix::Learn::What::CardRate, 41.5, "Card 64", 3});
  list.emplace_back(fix::Remind{"dew", 2});
  return list;
}
const std::vector<Fix> kOneOfEach = one_of_each();

TEST(Fixes, EveryKindComesBackFromItsJson) {
  std::set<std::size_t> kinds;
  std::set<std::string> words;
  for (const Fix& m : kOneOfEach) {
    const Json json = to_json(m);
    EXPECT_EQ(fix_of_json(json, "a fix"), m) << json.dump();
    kinds.insert(m.index());
    words.insert(json.at("do").get<std::string>());
  }
  EXPECT_EQ(kinds.size(), std::variant_size_v<Fix>) << "one of every kind is tried";
  EXPECT_EQ(words.size(), std::variant_size_v<Fix>) << "no two have one word";
}

TEST(Fixes, TheirJsonIsWhatTheDocumentsSay) {
  EXPECT_EQ(to_json(Fix(fix::SetSlot{Slot::Interval, 5})).dump(),
            R"({"do":"set","slot":"interval","value":5.0})");
  EXPECT_EQ(to_json(Fix(fix::Learn{fix::Learn::What::Turning, 2.5, "", 3})).dump(),
            R"({"do":"learn","what":"turning_s","value":2.5,"name":"","takes":3})");
}

TEST(Fixes, AreRefusedWhereTheyAreNone) {
  const auto said = [](const char* json) {
    return std::string(test::error_of([&] { fix_of_json(parse_json(json, "m.json"), "m.json"); }).what());
  };
  EXPECT_NE(said(R"({"do":"sing"})").find("sing"), std::string::npos);
  EXPECT_NE(said(R"({"slot":"interval"})").find("do"), std::string::npos);
  EXPECT_NE(said(R"({"do":"set","slot":"colour","value":5})").find("colour"), std::string::npos);
  EXPECT_NE(said(R"({"do":"set","slot":"interval","value":-5})").find("value"), std::string::npos);
  EXPECT_NE(said(R"({"do":"leave_out"})").find("file"), std::string::npos);
}

TEST(Fixes, SayWhatTheyDo) {
  EXPECT_EQ(words(fix::SetSlot{Slot::Interval, 5}), "Use 5 s");
  EXPECT_EQ(words(fix::SetSlot{Slot::Gap, 1}), "Leave a gap of 1 s");
  EXPECT_EQ(words(fix::SetSlot{Slot::ScreenCrossing, 7}), "Cross in 7 s");
  EXPECT_EQ(words(fix::SetSlot{Slot::Trail, 0.5}), "Use half a step");
  EXPECT_EQ(words(fix::SetSlot{Slot::Shutter, 0.008}), "Use 1/125 s");
  EXPECT_EQ(words(fix::SetSlot{Slot::Frames, 1250}), "Use 1,250 frames");
  EXPECT_EQ(words(fix::Release{Slot::Fps}), "Release the frame rate");
  EXPECT_EQ(words(fix::AllowIso{6400}), "Allow ISO 6,400");
  EXPECT_EQ(words(fix::SmoothChange{4}), words(fix::KeepChange{4, false}));
  for (const Fix& m : kOneOfEach) EXPECT_FALSE(words(m).empty()) << to_json(m).dump();
}

TEST(Fixes, ChangeWhatTheyNameAndNothingElse) {
  const take::Take before = take::demo_take();
  const auto after = [&](const Fix& m) { return take::with_fix(before, m); };
  take::Take t = before;

  t.endless = true;
  EXPECT_EQ(after(fix::RunEndless{}), t);
  t = before;
  t.light.method = ramp::Method::AperturePriority;
  EXPECT_EQ(after(fix::LetCameraExpose{}), t);
  t = before;
  t.light.rule.highest_iso = 3200;
  EXPECT_EQ(after(fix::AllowIso{3200}), t);
  t = before;
  t.gather.clock_s = 12;
  EXPECT_EQ(after(fix::SetClock{12}), t);
  t = before;
  t.light.turning_s = 3.5;
  t.light.turning_takes = 4;
  EXPECT_EQ(after(fix::Learn{fix::Learn::What::Turning, 3.5, "", 4}), t);
  t = before;
  t.kit.batteries.at(0).powered_hours = 2.5;
  t.kit.batteries.at(0).by_takes = 4;
  EXPECT_EQ(after(fix::Learn{fix::Learn::What::BatteryHours, 2.5, t.kit.batteries.at(0).name, 4}), t);
  t = before;
  t.again["dew"] = 3;
  EXPECT_EQ(after(fix::Remind{"dew", 3}), t);
  EXPECT_EQ(take::with_fix(t, fix::Remind{"dew", 0}), before);
}

TEST(Fixes, OfTheLightTakeOneAnothersPlace) {
  take::Take t = take::with_fix(take::demo_take(), fix::SmoothChange{31});
  EXPECT_EQ(t.level.smooth, std::vector<double>{31});
  t = take::with_fix(t, fix::KeepChange{31});
  EXPECT_EQ(t.level.keep, std::vector<double>{31});
  EXPECT_TRUE(t.level.smooth.empty());
  t = take::with_fix(t, fix::KeepChange{31, false});
  EXPECT_TRUE(t.level.keep.empty());
}

TEST(Fixes, ATimerMustBeInTheKit) {
  take::Take t = take::demo_take();
  const std::string name = plan::timers_of(t.kit).back().name;
  EXPECT_EQ(take::with_fix(t, fix::UseTimer{name}).timer, name);
  EXPECT_NE(std::string(test::error_of([&] { take::with_fix(t, fix::UseTimer{"Nobody's"}); }).what())
                .find("Nobody's"),
            std::string::npos);
}

}  // namespace
}  // namespace askcount
