// SPDX-License-Identifier: GPL-3.0-or-later
// The one action of a finding: what it changes, what it says, how it is kept.
#include "take/mend.h"

#include <set>

#include "base/json.h"
#include "support.h"

namespace askcount {
namespace {

/// One of every kind, with values that no field has by itself.
std::vector<Mend> one_of_each() {
  std::vector<Mend> list;  // not a list of 24 braces: compilers take minutes over what each may throw
  list.emplace_back(mend::SetSlot{Slot::Trail, 0.5});
  list.emplace_back(mend::Release{Slot::Gap});
  list.emplace_back(mend::RunEndless{});
  list.emplace_back(mend::UseTimer{"Field radio"});
  list.emplace_back(mend::LetCameraExpose{});
  list.emplace_back(mend::TurnEvery{7});
  list.emplace_back(mend::AllowIso{3200});
  list.emplace_back(mend::RedoClicks{});
  list.emplace_back(mend::LeaveOut{"a.jpg", false});
  list.emplace_back(mend::Keep{"b.jpg", false});
  list.emplace_back(mend::StandIn{"c.jpg", false});
  list.emplace_back(mend::CallFine{"d.jpg", false});
  list.emplace_back(mend::BeginAt{"e.jpg"});
  list.emplace_back(mend::EndAt{"f.jpg"});
  list.emplace_back(mend::ChooseTake{4});
  list.emplace_back(mend::JoinTakes{2, 5});
  list.emplace_back(mend::SetClock{-3600.5});
  list.emplace_back(mend::UseSource{"/cards/one"});
  list.emplace_back(mend::TakeEvery{25});
  list.emplace_back(mend::SmoothChange{31, false});
  list.emplace_back(mend::KeepChange{32, false});
  list.emplace_back(mend::UndoLens{false});
  list.emplace_back(mend::Learn{mend::Learn::What::CardRate, 41.5, "Card 64", 3});
  list.emplace_back(mend::Remind{"dew", 2});
  return list;
}
const std::vector<Mend> kOneOfEach = one_of_each();

TEST(Mends, EveryKindComesBackFromItsJson) {
  std::set<std::size_t> kinds;
  std::set<std::string> words;
  for (const Mend& m : kOneOfEach) {
    const Json json = to_json(m);
    EXPECT_EQ(mend_of_json(json, "a mend"), m) << json.dump();
    kinds.insert(m.index());
    words.insert(json.at("do").get<std::string>());
  }
  EXPECT_EQ(kinds.size(), std::variant_size_v<Mend>) << "one of every kind is tried";
  EXPECT_EQ(words.size(), std::variant_size_v<Mend>) << "no two have one word";
}

TEST(Mends, TheirJsonIsWhatTheDocumentsSay) {
  EXPECT_EQ(to_json(Mend(mend::SetSlot{Slot::Interval, 5})).dump(),
            R"({"do":"set","slot":"interval","value":5.0})");
  EXPECT_EQ(to_json(Mend(mend::Learn{mend::Learn::What::Turning, 2.5, "", 3})).dump(),
            R"({"do":"learn","what":"turning_s","value":2.5,"name":"","takes":3})");
}

TEST(Mends, AreRefusedWhereTheyAreNone) {
  const auto said = [](const char* json) {
    return std::string(test::error_of([&] { mend_of_json(parse_json(json, "m.json"), "m.json"); }).what());
  };
  EXPECT_NE(said(R"({"do":"sing"})").find("sing"), std::string::npos);
  EXPECT_NE(said(R"({"slot":"interval"})").find("do"), std::string::npos);
  EXPECT_NE(said(R"({"do":"set","slot":"colour","value":5})").find("colour"), std::string::npos);
  EXPECT_NE(said(R"({"do":"set","slot":"interval","value":-5})").find("value"), std::string::npos);
  EXPECT_NE(said(R"({"do":"leave_out"})").find("file"), std::string::npos);
}

TEST(Mends, SayWhatTheyDo) {
  EXPECT_EQ(words(mend::SetSlot{Slot::Interval, 5}), "Use 5 s");
  EXPECT_EQ(words(mend::SetSlot{Slot::Gap, 1}), "Leave a gap of 1 s");
  EXPECT_EQ(words(mend::SetSlot{Slot::ScreenCrossing, 7}), "Cross in 7 s");
  EXPECT_EQ(words(mend::SetSlot{Slot::Trail, 0.5}), "Use half a step");
  EXPECT_EQ(words(mend::SetSlot{Slot::Shutter, 0.008}), "Use 1/125 s");
  EXPECT_EQ(words(mend::SetSlot{Slot::Frames, 1250}), "Use 1,250 frames");
  EXPECT_EQ(words(mend::Release{Slot::Fps}), "Release the frame rate");
  EXPECT_EQ(words(mend::AllowIso{6400}), "Allow ISO 6,400");
  EXPECT_EQ(words(mend::SmoothChange{4}), words(mend::KeepChange{4, false}));
  for (const Mend& m : kOneOfEach) EXPECT_FALSE(words(m).empty()) << to_json(m).dump();
}

TEST(Mends, ChangeWhatTheyNameAndNothingElse) {
  const take::Take before = take::demo_take();
  const auto after = [&](const Mend& m) { return take::mended(before, m); };
  take::Take t = before;

  t.endless = true;
  EXPECT_EQ(after(mend::RunEndless{}), t);
  t = before;
  t.light.method = ramp::Method::AperturePriority;
  EXPECT_EQ(after(mend::LetCameraExpose{}), t);
  t = before;
  t.light.rule.highest_iso = 3200;
  EXPECT_EQ(after(mend::AllowIso{3200}), t);
  t = before;
  t.gather.clock_s = 12;
  EXPECT_EQ(after(mend::SetClock{12}), t);
  t = before;
  t.light.turning_s = 3.5;
  t.light.turning_takes = 4;
  EXPECT_EQ(after(mend::Learn{mend::Learn::What::Turning, 3.5, "", 4}), t);
  t = before;
  t.kit.batteries.at(0).powered_hours = 2.5;
  t.kit.batteries.at(0).by_takes = 4;
  EXPECT_EQ(after(mend::Learn{mend::Learn::What::BatteryHours, 2.5, t.kit.batteries.at(0).name, 4}), t);
  t = before;
  t.again["dew"] = 3;
  EXPECT_EQ(after(mend::Remind{"dew", 3}), t);
  EXPECT_EQ(take::mended(t, mend::Remind{"dew", 0}), before);
}

TEST(Mends, OfTheLightTakeOneAnothersPlace) {
  take::Take t = take::mended(take::demo_take(), mend::SmoothChange{31});
  EXPECT_EQ(t.level.smooth, std::vector<double>{31});
  t = take::mended(t, mend::KeepChange{31});
  EXPECT_EQ(t.level.keep, std::vector<double>{31});
  EXPECT_TRUE(t.level.smooth.empty());
  t = take::mended(t, mend::KeepChange{31, false});
  EXPECT_TRUE(t.level.keep.empty());
}

TEST(Mends, ATimerMustBeInTheKit) {
  take::Take t = take::demo_take();
  const std::string name = plan::timers_of(t.kit).back().name;
  EXPECT_EQ(take::mended(t, mend::UseTimer{name}).timer, name);
  EXPECT_NE(std::string(test::error_of([&] { take::mended(t, mend::UseTimer{"Nobody's"}); }).what())
                .find("Nobody's"),
            std::string::npos);
}

}  // namespace
}  // namespace askcount
