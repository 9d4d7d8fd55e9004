// SPDX-License-Identifier: GPL-3.0-or-later
// Exposures put in order, into shots and into takes; no file is read.
#include <numeric>

#include "ingest/beat.h"
#include "ingest/shots.h"
#include "ingest/takes.h"
#include "support.h"

namespace askcount::ingest {
namespace {

using media::Exposure;

/// A picture that says only this.
Exposure shot(const std::string& file, std::optional<double> at_s, double shutter_s = 1 / 60.0,
              bool whole = false) {
  Exposure e;
  e.compressed = file;
  e.info.body = "Field 1";
  e.info.shutter_s = shutter_s;
  e.info.iso = 100;
  e.info.f_number = 8;
  e.info.whole_seconds = whole;
  if (at_s) {
    const long long ms = std::llround(*at_s * 1000);
    e.info.captured =
        media::CameraTime(std::chrono::milliseconds(1760000000000 + (whole ? ms / 1000 * 1000 : ms)));
  }
  return e;
}

std::string name(int number, const std::string& folder = "100FIELD") {
  return fmt::format("/absent/{}/FLD_{:04}.JPG", folder, number);
}

std::vector<int> numbers(const std::vector<Exposure>& list) {
  std::vector<int> out;
  for (const Exposure& e : list) out.push_back(static_cast<int>(number_of(e.file())));
  return out;
}

TEST(Order, FollowsTheNumbersOverTheirEnd) {
  // By name 0001 comes first; by time it is the last. Without times the wide hole tells.
  for (const bool timed : {true, false}) {
    std::vector<Exposure> list;
    for (const int n : {1, 2, 3, 9996, 9997, 9998, 9999})
      list.push_back(shot(name(n), timed ? std::optional((n < 10 ? n + 9999 : n) * 5.0) : std::nullopt));
    std::vector<ClockNote> notes;
    put_in_order(list, notes);
    EXPECT_EQ(numbers(list), (std::vector{9996, 9997, 9998, 9999, 1, 2, 3})) << timed;
    EXPECT_TRUE(notes.empty());
  }
}

TEST(Order, KeepsEqualTimesInTheOrderOfNumbers) {
  std::vector<Exposure> list;
  for (int n = 1; n <= 24; ++n) list.push_back(shot(name(n), n / 12.0, 0.001, true));
  std::vector<ClockNote> notes;
  put_in_order(list, notes);
  for (int n = 1; n <= 24; ++n) EXPECT_EQ(number_of(list[static_cast<size_t>(n - 1)].file()), n);
}

TEST(Order, BelievesNoTimeThatItsNeighboursDeny) {
  std::vector<Exposure> list;
  for (int n = 1; n <= 40; ++n)
    list.push_back(shot(name(n), n == 20 ? -90000000.0 : n == 30 || n == 31 ? 9e6 + n : n * 10.0));
  list[7].info.captured.reset();
  std::vector<ClockNote> notes;
  put_in_order(list, notes);
  std::vector<int> all(40);
  std::iota(all.begin(), all.end(), 1);
  EXPECT_EQ(numbers(list), all);
  ASSERT_EQ(notes.size(), 3u);
  for (const ClockNote& n : notes) EXPECT_EQ(n.what, ClockNote::What::NotBelieved);
  EXPECT_EQ(number_of(notes[0].file), 20);
}

TEST(Order, PutsAClockThatWasSetBackForward) {
  std::vector<Exposure> list;
  for (int n = 1; n <= 40; ++n) list.push_back(shot(name(n), n * 10.0 - (n > 25 ? 3600 : 0)));
  std::vector<ClockNote> notes;
  put_in_order(list, notes);
  ASSERT_EQ(notes.size(), 1u);
  EXPECT_EQ(notes[0].what, ClockNote::What::SetBack);
  EXPECT_NEAR(notes[0].seconds, 3600, 0.01);
  EXPECT_EQ(number_of(list.back().file()), 40);
  EXPECT_NEAR(std::chrono::duration<double>(*list[25].info.captured - *list[24].info.captured).count(), 10,
              0.01);
}

TEST(Order, TakesAnHourOfTheZoneOutAgain) {
  std::vector<Exposure> list;
  for (int n = 1; n <= 20; ++n) {
    list.push_back(shot(name(n), n * 10.0 + (n > 10 ? -3600 : 0)));
    list.back().info.zone_min = n > 10 ? 60 : 120;  // back to winter time
  }
  std::vector<ClockNote> notes;
  put_in_order(list, notes);
  for (int n = 1; n <= 20; ++n) EXPECT_EQ(number_of(list[static_cast<size_t>(n - 1)].file()), n);
  EXPECT_TRUE(notes.empty());
}

std::vector<Exposure> brackets(int shots, double interval, double inside, bool whole, bool with_f = true) {
  std::vector<Exposure> list;
  for (int i = 0; i < shots; ++i)
    for (int k = 0; k < 3; ++k) {
      const double shutter[] = {1 / 60.0, 1 / 240.0, 1 / 15.0};
      list.push_back(shot(name(3 * i + k + 1), i * interval + k * inside, shutter[k], whole));
      if (!with_f) list.back().info.f_number.reset();
    }
  return list;
}

TEST(Shots, BracketsAreKnownByTimesAndByExposures) {
  struct Case {
    double interval, inside;
    bool whole, with_f;
  };
  for (const Case& c : {Case{10, 0.4, false, true}, Case{10, 0.4, true, true}, Case{3, 1, true, false},
                        Case{2, 0.6, true, true}}) {
    const auto shots = shots_of(brackets(30, c.interval, c.inside, c.whole, c.with_f));
    ASSERT_EQ(shots.size(), 30u) << c.interval;
    for (size_t i = 0; i < shots.size(); ++i) EXPECT_EQ(shots[i], (Shot{3 * i, 3}));
  }
}

TEST(Shots, ABracketMayLackAFile) {
  std::vector<Exposure> list = brackets(20, 10, 0.4, false);
  list.erase(list.begin() + 31);
  const auto shots = shots_of(list);
  ASSERT_EQ(shots.size(), 20u);
  EXPECT_EQ(shots[10].count, 2u);
  EXPECT_EQ(shots[11].first, 32u);
}

TEST(Shots, ARampAndABurstAreNoBrackets) {
  std::vector<Exposure> ramp, burst;
  for (int n = 0; n < 60; ++n) {
    ramp.push_back(shot(name(n + 1), n * 20.0, std::pow(2, n / 4 / 3.0) / 60));  // a click every fourth frame
    burst.push_back(shot(name(n + 1), n / 12.0, 0.001, true));
  }
  EXPECT_EQ(shots_of(ramp).size(), 60u);
  EXPECT_EQ(shots_of(burst).size(), 60u);
}

TEST(Shots, AnotherWayToShootEndsTheBrackets) {
  std::vector<Exposure> list = brackets(20, 6, 0.5, true);
  for (int n = 0; n < 40; ++n) list.push_back(shot(name(100 + n), 500 + n * 3.0, 1 / 125.0, true));
  const auto shots = shots_of(list);
  ASSERT_EQ(shots.size(), 60u);
  EXPECT_EQ(shots[19], (Shot{57, 3}));
  for (size_t i = 20; i < shots.size(); ++i) EXPECT_EQ(shots[i].count, 1u) << i;
}

TEST(Beat, ALateShotByWholeSecondsIsNoHoleAndNoDouble) {
  Times t;
  t.clock_s = 1.01;
  for (int n = 0; n < 80; ++n) t.at.push_back(std::floor(0.2 + n * 3 + (n == 40 ? 1.9 : 0)));
  t.unclocked.assign(t.at.size(), 0);
  const auto runs = even_runs(t);
  ASSERT_EQ(runs.size(), 1u);
  EXPECT_TRUE(runs[0].extra.empty()) << "a real frame would be lost";
  EXPECT_EQ(runs[0].steps.size(), 79u);
  long long lost = 0;
  for (const Step& s : runs[0].steps) lost += s.missing;
  EXPECT_EQ(lost, 0);
  EXPECT_NEAR(runs[0].steps[39].off_s, 2, 0.2);
}

TEST(Beat, SeesHolesThatWholeSecondsHide) {
  for (const double interval : {1.0, 1.5, 2.0}) {
    Times t;
    t.clock_s = 1.01;
    for (int n = 0; n < 120; ++n) {
      if (n == 50 || n == 80 || n == 81) continue;
      t.at.push_back(std::floor(0.3 + n * interval));
      t.unclocked.push_back(0);
    }
    const auto runs = even_runs(t);
    ASSERT_EQ(runs.size(), 1u) << interval;
    long long lost = 0;
    for (const Step& s : runs[0].steps) lost += s.missing;
    EXPECT_EQ(lost, 3) << interval;
    EXPECT_EQ(runs[0].steps[49].missing, 1) << interval;
    EXPECT_EQ(runs[0].steps[78].missing, 2) << interval;
  }
}

TEST(Beat, GoesOnOverLateAndDoubleShots) {
  Times t;
  for (int n = 0; n < 40; ++n) {
    t.at.push_back(n * 10 + (n == 12 ? 4 : 0));
    if (n == 20) t.at.push_back(n * 10 + 1);
  }
  t.unclocked.assign(t.at.size(), 0);
  const auto runs = even_runs(t);
  ASSERT_EQ(runs.size(), 1u);
  EXPECT_EQ(runs[0].last, t.at.size() - 1);
  EXPECT_EQ(runs[0].extra, std::vector<size_t>{21});
  EXPECT_NEAR(runs[0].steps[11].off_s, 4, 1e-9);
}

TEST(Takes, TheFirstFrameOfASlowTakeIsKept) {
  std::vector<Exposure> list;
  int n = 1;
  for (const double at : {0.0, 7.0, 40.0, 52.0}) list.push_back(shot(name(n++), at, 1 / 30.0));
  for (int i = 0; i < 40; ++i) list.push_back(shot(name(n++), 53 + 300.0 * i));
  const auto takes = takes_of(list);
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 40u);
  EXPECT_EQ(takes[0].dropped.size(), 4u);
  EXPECT_NEAR(*takes[0].interval_s, 300, 0.01);
}

TEST(Takes, ALongHoleKeepsBothSides) {
  std::vector<Exposure> list;
  for (int n = 0; n < 200; ++n)
    if (n < 60 || n >= 140) list.push_back(shot(name(n + 1), n * 5.0));
  const auto takes = takes_of(list);
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 120u);
  ASSERT_EQ(takes[0].missing.size(), 1u);
  EXPECT_EQ(takes[0].missing[0].after, 59u);
  EXPECT_EQ(takes[0].missing[0].frames, 80);
}

TEST(Takes, ANightBetweenThemMakesTwoThatCanBeJoined) {
  std::vector<Exposure> list;
  int n = 1;
  for (int i = 0; i < 50; ++i) list.push_back(shot(name(n++), i * 60.0));
  for (int i = 0; i < 40; ++i) list.push_back(shot(name(n++), 60000 + i * 60.0));
  const auto takes = takes_of(list);
  ASSERT_EQ(takes.size(), 2u);
  EXPECT_EQ(takes[0].frames->size(), 50u);
  const FoundTake one = joined(takes);
  EXPECT_EQ(one.frames->size(), 90u);
  EXPECT_EQ(one.sessions, std::vector<size_t>{50});
  EXPECT_NEAR(*one.interval_s, 60, 0.01);
}

TEST(Takes, TwoBeatsAndTwoCamerasAreTwoTakes) {
  std::vector<Exposure> list;
  int n = 1;
  for (int i = 0; i < 40; ++i) list.push_back(shot(name(n++), i * 5.0));
  for (int i = 0; i < 30; ++i) list.push_back(shot(name(n++), 1200 + i * 10.0));
  EXPECT_EQ(takes_of(list).size(), 2u);
  std::vector<Exposure> cameras;
  for (int i = 0; i < 40; ++i) {
    cameras.push_back(shot(name(i + 1), i * 5.0));
    cameras.push_back(shot(name(i + 1, "200OTHER"), i * 5.0 + 2));
    cameras.back().info.body = "Field 2";
  }
  const auto takes = takes_of(cameras);
  ASSERT_EQ(takes.size(), 2u);
  for (const FoundTake& t : takes) EXPECT_EQ(t.frames->size(), 40u);
}

TEST(Takes, OnePictureWithoutATimeChangesNothing) {
  std::vector<Exposure> list;
  for (int n = 0; n < 60; ++n)
    list.push_back(shot(name(n + 1), n == 20 ? std::nullopt : std::optional(n * 2.0), 0.01, true));
  const auto takes = takes_of(list);
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 60u);
  EXPECT_TRUE(takes[0].missing.empty());
  EXPECT_NEAR(*takes[0].interval_s, 2, 0.05);
}

TEST(Takes, WhatCameUnevenlyIsOneTakeWithoutABeat) {
  std::vector<Exposure> list;
  std::mt19937 random(5);
  double at = 0;
  for (int n = 0; n < 60; ++n) list.push_back(shot(name(n + 1), at += 2 + random() % 700 / 100.0));
  const auto takes = takes_of(list);
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 60u);
  EXPECT_FALSE(takes[0].interval_s);
  EXPECT_TRUE(takes[0].missing.empty());
}

TEST(Takes, TwelveFilesOfASecondAreTwelveFrames) {
  std::vector<Exposure> list;
  for (int n = 0; n < 120; ++n) list.push_back(shot(name(n + 1), n / 12.0, 0.001, true));
  const auto takes = takes_of(list);
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].frames->size(), 120u);
}

TEST(Decided, LeavesOutAndTakesBackWhatThePersonSays) {
  std::vector<Exposure> list{shot(name(1), -47, 1 / 30.0), shot(name(2), -23, 1 / 8.0)};
  for (int n = 0; n < 30; ++n) list.push_back(shot(name(n + 3), n * 10.0));
  Found found;
  found.takes = takes_of(list);
  ASSERT_EQ(found.takes[0].frames->size(), 30u);
  Ask ask;
  ask.leave_out = {"FLD_0010.JPG"};
  ask.keep = {"FLD_0002.JPG"};
  ask.stand_in = {"FLD_0012.JPG"};
  ask.until = "FLD_0030.JPG";
  const Gathered g = decided(found, ask);
  std::vector<int> kept;
  for (const media::Frame& f : *g.frames) kept.push_back(static_cast<int>(number_of(f.file())));
  EXPECT_EQ(kept.size(), 30u - 1 + 1 - 2);
  EXPECT_EQ(kept.front(), 2);
  EXPECT_EQ(kept.back(), 30);
  EXPECT_EQ(std::count(kept.begin(), kept.end(), 10), 0);
  EXPECT_EQ(std::count_if(g.frames->begin(), g.frames->end(), [](const auto& f) { return f.set_aside; }), 1);
  EXPECT_EQ(std::count_if(g.dropped.begin(), g.dropped.end(),
                          [](const Dropped& d) { return d.why == Dropped::Why::ByHand; }),
            3);
}

TEST(Decided, ThePlanChoosesTheTake) {
  std::vector<Exposure> list;
  int n = 1;
  for (int i = 0; i < 80; ++i) list.push_back(shot(name(n++), i * 5.0));
  for (int i = 0; i < 30; ++i) list.push_back(shot(name(n++), 3000 + i * 20.0));
  Found found;
  found.takes = takes_of(list);
  Ask ask;
  EXPECT_EQ(decided(found, ask).chosen, 0u) << "the longest, where nothing is planned";
  ask.interval_s = 20;
  ask.frames = 32;
  EXPECT_EQ(decided(found, ask).chosen, 1u);
  ask.choose = 0;
  EXPECT_EQ(decided(found, ask).frames->size(), 80u);
  ask.choose = 2;
  EXPECT_EQ(test::error_of([&] { decided(found, ask); }).kind(), Error::Kind::BadInput);
}

}  // namespace
}  // namespace askcount::ingest
