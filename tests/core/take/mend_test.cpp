// The one action of a finding: what it changes, what it says, how it is kept.
#include "take/mend.h"

#include <set>

#include "base/json.h"
#include "support.h"

namespace askcount {
namespace {

/// One of every kind, with values that no field has by itself.
const std::vector<Mend> kOneOfEach = {mend::SetSlot{Slot::Trail, 0.5},
                                      mend::Release{Slot::Gap},
                                      mend::RunEndless{},
                                      mend::UseTimer{"Field radio"},
                                      mend::LetCameraExpose{},
                                      mend::TurnEvery{7},
                                      mend::AllowIso{3200},
                                      mend::RedoClicks{},
                                      mend::LeaveOut{"a.jpg", false},
                                      mend::Keep{"b.jpg", false},
                                      mend::StandIn{"c.jpg", false},
                                      mend::CallFine{"d.jpg", false},
                                      mend::BeginAt{"e.jpg"},
                                      mend::EndAt{"f.jpg"},
                                      mend::ChooseTake{4},
                                      mend::JoinTakes{2, 5},
                                      mend::SetClock{-3600.5},
                                      mend::UseSource{"/cards/one"},
                                      mend::TakeEvery{25},
                                      mend::SmoothChange{31, false},
                                      mend::KeepChange{32, false},
                                      mend::UndoLens{false},
                                      mend::Learn{mend::Learn::What::CardRate, 41.5, "Card 64", 3},
                                      mend::Remind{"dew", 2}};

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
  t.light.school = ramp::School::AperturePriority;
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
