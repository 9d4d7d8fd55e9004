// SPDX-License-Identifier: GPL-3.0-or-later
// What a person decides about frames: in the take, through fixes, and what follows from it.
#include "advice/gather_advice.h"
#include "cards.h"
#include "forecast/gather.h"
#include "journal/journal.h"
#include "simulate/card.h"
#include "take/fix.h"

namespace askcount {
namespace {

take::Take after(std::initializer_list<Fix> fixes) {
  take::Take t;
  for (const Fix& m : fixes) t = take::with_fix(t, m);
  return t;
}

TEST(GatherFixes, PutAFileInOneListAndTakeItOutOfTheOther) {
  const take::Take t = after({fix::LeaveOut{"a.jpg"}, fix::LeaveOut{"b.jpg"}, fix::Keep{"a.jpg"}});
  EXPECT_EQ(t.gather.leave_out, std::vector<std::string>{"b.jpg"});
  EXPECT_EQ(t.gather.keep, std::vector<std::string>{"a.jpg"});
  EXPECT_EQ(take::with_fix(t, fix::LeaveOut{"b.jpg", false}).gather.leave_out, std::vector<std::string>{});
  EXPECT_EQ(take::with_fix(t, fix::Keep{"a.jpg"}).gather.keep.size(), 1u) << "twice is once";
}

TEST(GatherFixes, ChooseJoinEndAndSetTheClock) {
  const take::Take joined = after({fix::JoinTakes{1, 3}, fix::JoinTakes{1, 2}});
  EXPECT_EQ(joined.gather.join, (std::vector<double>{1, 3, 2}));
  EXPECT_EQ(take::with_fix(joined, fix::ChooseTake{2}).gather.join, std::vector<double>{});
  EXPECT_EQ(after({fix::ChooseTake{2}}).gather.choose, 2);
  EXPECT_EQ(after({fix::EndAt{"z.jpg"}, fix::BeginAt{"c.jpg"}}).gather.until, "z.jpg");
  EXPECT_EQ(after({fix::SetClock{-3600}}).gather.clock_s, -3600);
  EXPECT_EQ(after({fix::StandIn{"x.jpg"}, fix::CallFine{"y.jpg"}}).gather.stand_in,
            std::vector<std::string>{"x.jpg"});
}

TEST(GatherFixes, AnotherSourceIsDecidedAboutAnew) {
  take::Take t;
  t.card = "card";
  t.gather.leave_out = {"FLD_0003.JPG"};
  t.gather.film_step = 4;
  const take::Take other = take::with_fix(t, fix::UseSource{"/films/walk.mov"});
  EXPECT_EQ(other.card, "/films/walk.mov");
  EXPECT_EQ(other.gather, take::GatherWish());
  EXPECT_EQ(take::with_fix(other, fix::TakeEvery{25}).gather.film_step, 25);
}

TEST(ClockFix, TakesWhatTheFrameSaysForWhatItWas) {
  take::Take t;
  t.gather.clock_s = 60;  // what is shown has it already
  const auto shown = media::CameraTime(std::chrono::milliseconds(1760000000000));  // 2025-10-09 08:53:20
  const Fix fix = forecast::clock_fix(t, shown, "2025-10-09 09:53:50");
  EXPECT_NEAR(std::get<fix::SetClock>(fix).seconds, 60 + 3630, 1e-6);
  const Fix earlier = forecast::clock_fix(t, shown, "2025-10-08 08:53:20");
  EXPECT_NEAR(std::get<fix::SetClock>(earlier).seconds, 60 - 86400, 1e-6);
  for (const char* wrong : {"", "noon", "2025-13-40 08:00:00"})
    EXPECT_EQ(test::error_of([&] { forecast::clock_fix(t, shown, wrong); }).kind(), Error::Kind::BadInput)
        << wrong;
}

TEST(GatherFixes, AreInTheTakesFile) {
  take::Take t = after({fix::LeaveOut{"a.jpg"}, fix::StandIn{"b.jpg"}, fix::CallFine{"c.jpg"},
                        fix::ChooseTake{4}, fix::SetClock{90}, fix::EndAt{"d.jpg"}});
  t.gather.more_cards = {"second"};
  t.gather.join = {1, 2};
  EXPECT_EQ(take::take_from_json(take::to_json(t), "x").gather, t.gather);
  Json wrong = take::to_json(t);
  wrong["gather"]["choose"] = -1;
  EXPECT_NE(
      std::string(test::error_of([&] { take::take_from_json(wrong, "x"); }).what()).find("gather.choose"),
      std::string::npos);
  // An older file says nothing of it.
  Json old = take::to_json(t);
  old.erase("gather");
  EXPECT_EQ(take::take_from_json(old, "x").gather, take::GatherWish{});
}

TEST(GatherAsk, SaysWhatThePlanWantsAndWhatWasDecided) {
  take::Take t = test::small_take(40);
  t.gather.choose = 2;
  t.gather.join = {2, 3};
  t.gather.keep = {"a.jpg"};
  const ingest::Ask ask = forecast::gather_ask(t, {"/one", "/two"});
  EXPECT_EQ(ask.folders.size(), 2u);
  EXPECT_EQ(ask.choose, 1u);
  EXPECT_EQ(ask.join, (std::vector<size_t>{1, 2}));
  EXPECT_EQ(ask.keep, t.gather.keep);
  EXPECT_NEAR(*ask.interval_s, 20, 1e-9);
  EXPECT_GE(*ask.frames, 40);
  EXPECT_EQ(*ask.start, simulate::camera_clock(t.start, t.place.zone));
  const ingest::Ask unsaid = forecast::gather_ask(take::Take{}, {"/one"});
  EXPECT_FALSE(unsaid.interval_s || unsaid.frames || unsaid.start || unsaid.choose);
}

class ClockTest : public ::testing::Test {
 protected:
  /// A card whose camera was this many seconds ahead.
  ingest::Gathered gathered(double ahead_s) {
    const auto right = simulate::camera_clock(take_.start, take_.place.zone);
    test::Card card{.size = {96, 64}, .frames = 20, .interval_s = 20};
    card.first_ms = right.time_since_epoch().count() + std::llround(ahead_s * 1000);
    test::write_card(card, folder_ / "card");
    return ingest::gather(folder_ / "card");
  }
  static std::optional<Finding> clock_finding(const Findings& list) {
    for (const Finding& f : list)
      if (f.code == "clock_wrong") return f;
    return {};
  }

  test::Folder folder_;
  take::Take take_ = test::small_take(20);
};

TEST_F(ClockTest, AWrongClockIsSeenAndPutRight) {
  const ingest::Gathered g = gathered(3600);
  EXPECT_NEAR(*forecast::clock_error_s(take_, g, {}), -3600, 1);
  const Findings list = advice::gather_advice(take_, g, {}, {}, take_.start);
  const auto finding = clock_finding(list);
  ASSERT_TRUE(finding && finding->fix);
  EXPECT_NE(finding->title.find("1 h ahead"), std::string::npos) << finding->title;
  EXPECT_NE(finding->text.find("the journal"), std::string::npos);
  const take::Take fixed = take::with_fix(take_, *finding->fix);
  const ingest::Gathered right = ingest::gather(forecast::gather_ask(fixed, {folder_ / "card"}));
  EXPECT_NEAR(
      std::chrono::duration<double>(*right.start() - simulate::camera_clock(take_.start, take_.place.zone))
          .count(),
      0, 1);
  EXPECT_FALSE(clock_finding(advice::gather_advice(fixed, right, {}, {})));
}

TEST_F(ClockTest, ARightClockIsLeftAlone) {
  EXPECT_FALSE(forecast::clock_error_s(take_, gathered(8), {}));
  EXPECT_FALSE(forecast::clock_error_s(take::Take{}, gathered(8), {}))
      << "nothing is known to hold it against";
}

TEST(BeganByJournal, IsOfARealCameraOnly) {
  const test::Folder folder;
  const test::fs::path take = folder / "x.askcount";
  EXPECT_FALSE(advice::began_by_journal(take)) << "there is none";
  for (const bool standin : {true, false}) {
    journal::Journal journal;
    journal.open(folder / "x.journal");
    journal.append({{"what", "start"},
                    {"standin", standin},
                    {"first_ms", 1760000000000},
                    {"interval_s", 20},
                    {"count", 30},
                    {"scale", 1}});
    journal.close();
    const auto began = advice::began_by_journal(take);
    EXPECT_EQ(began.has_value(), !standin) << "the stand-in's hours are not the wall's";
    if (began) {
      EXPECT_EQ(began->time_since_epoch().count(), 1760000000000);
    }
  }
}

TEST(OpenFaults, AreThoseNobodyHasDecidedAbout) {
  const test::Folder folder;
  test::write_card({.size = {96, 64}, .frames = 10}, folder / "card");
  ingest::Ask ask;
  ask.folders = {folder / "card"};
  ask.stand_in = {"FLD_0003.JPG"};
  const ingest::Gathered g = ingest::gather(ask);
  std::vector<inspect::Fault> faults(3);
  faults[0].frame = 2;
  faults[1].frame = 5;
  faults[2].frame = 7;
  take::Take take;
  take.gather.fine = {"FLD_0006.JPG"};
  const auto open = advice::open_faults(take, g, faults);
  ASSERT_EQ(open.size(), 1u);
  EXPECT_EQ(open[0].frame, 7u);
}

TEST(Faults, ASingleOneOffersItsFixAndSeveralAreOneFinding) {
  const test::Folder folder;
  test::write_card({.size = {96, 64}, .frames = 10}, folder / "card");
  const ingest::Gathered g = ingest::gather(folder / "card");
  inspect::Look look;
  look.frames.resize(10);
  const auto visitor = [](size_t n) {
    inspect::Fault f;
    f.kind = inspect::FaultKind::Visitor;
    f.frame = f.last = n;
    f.text = "Something passed.";
    f.remedy = inspect::Remedy::Neighbours;
    return f;
  };
  const Findings one = inspect::judge(g, look, {visitor(4)});
  ASSERT_EQ(one.size(), 1u);
  EXPECT_EQ(one[0].title, "Something passed at frame 5");
  EXPECT_EQ(one[0].fix, Fix(fix::StandIn{"FLD_0005.JPG"}));
  const Findings two = inspect::judge(g, look, {visitor(4), visitor(7)});
  ASSERT_EQ(two.size(), 1u);
  EXPECT_EQ(two[0].title, "Something passed 2 times");
  EXPECT_FALSE(two[0].fix);
  const Findings none = inspect::judge(g, look, {});
  ASSERT_EQ(none.size(), 1u);
  EXPECT_EQ(none[0].code, "all_well");
  // Every code has its title.
  using inspect::FaultKind;
  for (int k = 0; k <= static_cast<int>(FaultKind::SizeDiffers); ++k) {
    inspect::Fault f = visitor(2);
    f.kind = static_cast<FaultKind>(k);
    const char* code = inspect::fault_word(f.kind);
    if (f.kind == FaultKind::Missing || f.kind == FaultKind::Double) {  // the gathering says these
      EXPECT_EQ(inspect::judge(g, look, {f})[0].code, "all_well");
      continue;
    }
    EXPECT_EQ(inspect::judge(g, look, {f})[0].title.find("{}"), std::string::npos) << code;
    EXPECT_NE(inspect::judge(g, look, {f, f})[0].title.find('2'), std::string::npos) << code;
  }
}

}  // namespace
}  // namespace askcount
