// SPDX-License-Identifier: GPL-3.0-or-later
// Takes told by what was planned; no file is read.
#include "ingest/by_plan.h"

#include "forecast/ended_early.h"
#include "ingest/takes.h"
#include "support.h"

namespace askcount::ingest {
namespace {

/// Pictures of one camera at these seconds, numbered on.
std::vector<media::Exposure> shots_at(const std::vector<double>& seconds) {
  std::vector<media::Exposure> list;
  for (const double at : seconds) {
    media::Exposure e;
    e.compressed = fmt::format("/absent/100FIELD/FLD_{:04}.JPG", list.size() + 1);
    e.info.body = "Field 1";
    e.info.shutter_s = 1 / 60.0;
    e.info.f_number = 8;
    e.info.iso = 100;
    e.info.captured = media::CameraTime(std::chrono::milliseconds(1760000000000 + std::llround(at * 1000)));
    list.push_back(e);
  }
  return list;
}

Ask planned(double interval_s, long long frames) {
  Ask ask;
  ask.interval_s = interval_s;
  ask.frames = frames;
  return ask;
}

std::vector<double> even(double from, double interval, int n) {
  std::vector<double> list;
  for (int i = 0; i < n; ++i) list.push_back(from + interval * i);
  return list;
}

std::vector<double> operator+(std::vector<double> a, const std::vector<double>& b) {
  a.insert(a.end(), b.begin(), b.end());
  return a;
}

TEST(ByPlan, TestShotsThatChanceToBeOnTheBeatAreNotTheTakes) {
  // At 27 s between shots a test two and one of a minute before look like frames with holes.
  const auto found = takes_of(shots_at(std::vector{-135.0, -108.0, -54.0} + even(0, 27, 60)));
  ASSERT_EQ(found.size(), 1u);
  EXPECT_EQ(found[0].frames->size(), 63u) << "without a plan they cannot be told";
  const auto takes = by_plan(found, planned(27, 60));
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 60u);
  EXPECT_TRUE(takes[0].missing.empty());
  EXPECT_EQ(takes[0].dropped.size(), 3u);
  EXPECT_NEAR(*takes[0].interval_s, 27, 1e-6);
}

TEST(ByPlan, MoreShotsThanPlannedWithoutAHoleStay) {
  const auto found = takes_of(shots_at(even(0, 5, 70)));
  EXPECT_EQ(by_plan(found, planned(5, 60))[0].frames->size(), 70u);
  // Where the plan's start is known, two before it are none of it; what comes after its number is.
  Ask ask = planned(5, 60);
  ask.start = media::CameraTime(std::chrono::milliseconds(1760000000000 + 10000));
  const auto takes = by_plan(found, ask);
  EXPECT_EQ(takes[0].frames->size(), 68u);
  EXPECT_EQ(takes[0].dropped.size(), 2u);
}

TEST(ByPlan, PressesThatWereNotHeardAreHolesOfOneTake) {
  // 8 s, then every second press, then every third.
  const auto found =
      takes_of(shots_at(even(0, 8, 40) + even(40 * 8 + 8, 16, 12) + even(40 * 8 + 8 + 12 * 16 + 8, 24, 9)));
  const auto takes = by_plan(found, planned(8, 93));
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 61u);
  EXPECT_NEAR(*takes[0].interval_s, 8, 0.01);
  long long lost = 0;
  for (const Missing& m : takes[0].missing) lost += m.frames;
  EXPECT_EQ(lost, 1 + 11 + 2 + 16);
  // Another plan's beat leaves them as they were found.
  EXPECT_EQ(by_plan(found, planned(7, 93)).size(), found.size());
}

TEST(ByPlan, DaysOfWorkAreSessionsOfOneTake) {
  const auto found = takes_of(shots_at(even(0, 60, 61) + even(86400, 60, 61) + even(2 * 86400, 60, 58)));
  ASSERT_EQ(found.size(), 3u);
  Ask ask = planned(60, 180);
  ask.days = 3;
  const auto takes = by_plan(found, ask);
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 180u);
  EXPECT_EQ(takes[0].sessions, (std::vector<size_t>{61, 122}));
  EXPECT_EQ(by_plan(found, planned(60, 180)).size(), 3u) << "no days were planned";
}

take::Take plan_of(long long frames, double interval_s) {
  take::Take t;
  t.wish(plan::Slot::Fps, 25);
  t.wish(plan::Slot::Interval, interval_s);
  t.wish(plan::Slot::Shutter, 1 / 60.0);
  t.wish(plan::Slot::Frames, static_cast<double>(frames));
  return t;
}

TEST(EndedEarly, IsSaidWithItsLikelyCause) {
  take::Take t = plan_of(180, 10);
  t.kit = plan::demo_kit();
  t.kit.batteries = {{"Old cell", 90, 4, 20}};
  t.cold_counts = false;
  const auto found = takes_of(shots_at(even(0, 10, 89)));
  const auto ended = forecast::ended_early(t, found[0]);
  ASSERT_TRUE(ended);
  EXPECT_EQ(ended->frames, 89);
  EXPECT_EQ(ended->reached, 89);
  EXPECT_EQ(ended->planned, 180);
  EXPECT_EQ(ended->by, forecast::End::Battery);
  const Finding f = forecast::judge(t, *ended);
  EXPECT_EQ(f.code, "ended_early");
  for (const char* said : {"89 of 180", "3.6 s", "7.2 s", "other 91", "battery"})
    EXPECT_NE((f.title + f.text).find(said), std::string::npos) << said << " in " << f.text;
}

TEST(EndedEarly, IsNotSaidOfAWholeTakeOrOfAnother) {
  const auto found = takes_of(shots_at(even(0, 10, 89)));
  EXPECT_FALSE(forecast::ended_early(plan_of(90, 10), found[0])) << "one less is no early end";
  EXPECT_FALSE(forecast::ended_early(plan_of(180, 20), found[0])) << "it is of another plan";
  EXPECT_TRUE(forecast::ended_early(plan_of(93, 10), found[0]));
  // Holes in between are another matter.
  const auto holes = takes_of(shots_at(even(0, 10, 40) + even(430, 10, 46)));
  EXPECT_FALSE(forecast::ended_early(plan_of(89, 10), holes[0]));
}

}  // namespace
}  // namespace askcount::ingest
