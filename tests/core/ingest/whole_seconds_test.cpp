// SPDX-License-Identifier: GPL-3.0-or-later
// Lateness that a clock of whole seconds hides: against times that are known, for many beats and phases.
#include "ingest/whole_seconds.h"

#include <random>

#include "support.h"

namespace askcount::ingest {
namespace {

constexpr size_t kShots = 120;

/// Times of an even beat from `start`, uneven by up to `uneven_s`, with some shots late, by whole seconds.
Times written(double beat_s, double start, double uneven_s, const std::map<size_t, double>& late,
              std::mt19937& random) {
  Times times;
  times.clock_s = 1.01;
  std::uniform_real_distribution<double> chance(-uneven_s, uneven_s);
  for (size_t n = 0; n < kShots; ++n) {
    const double at =
        start + beat_s * static_cast<double>(n) + chance(random) + (late.contains(n) ? late.at(n) : 0);
    times.at.push_back(std::floor(at));
  }
  times.unclocked.assign(kShots, 0);
  return times;
}

std::map<size_t, Lateness> told(const Times& times) {
  std::map<size_t, Lateness> found;
  for (const Run& run : even_runs(times)) {
    const auto list = lateness_by_neighbours(times, run);
    EXPECT_EQ(list.size(), run.steps.size() + 1);
    for (size_t k = 0; k < list.size(); ++k)
      if (list[k] && list[k]->is_off()) found[k == 0 ? run.first : run.steps[k - 1].to] = *list[k];
  }
  return found;
}

TEST(WholeSeconds, ALateShotIsToldByItsNeighboursWhateverThePhase) {
  std::mt19937 random(7);
  int tried = 0, found = 0;
  for (const double beat : {2.5, 4.0, 5.0, 5.013, 7.3, 10.0, 30.0})
    for (double phase = 0.06; phase < 0.95; phase += 0.08)
      for (const double late : {1.6, 1.8, -1.6}) {
        const Times times = written(beat, 1000 + phase, 0.02, {{60, late}}, random);
        const auto list = told(times);
        ++tried;
        if (!list.contains(60)) continue;
        ++found;
        EXPECT_EQ(list.size(), 1u) << beat << " s, phase " << phase;
        EXPECT_LE(list.at(60).least, late + 0.1) << beat << " s, phase " << phase;
        EXPECT_GE(list.at(60).most, late - 0.1) << beat << " s, phase " << phase;
      }
  EXPECT_GE(found, tried * 95 / 100) << "of " << tried;
}

TEST(WholeSeconds, AnEvenTakeHasNone) {
  std::mt19937 random(8);
  int falsely = 0, takes = 0;
  for (const double beat : {2.5, 4.0, 5.0, 5.013, 7.3, 10.0, 12.25, 30.0})
    for (double phase = 0; phase < 1; phase += 0.04) {
      ++takes;
      falsely += told(written(beat, 1000 + phase, 0.02, {}, random)).empty() ? 0 : 1;
    }
  // A beat of whole seconds that begins right where one ends looks late now and then; nothing else does.
  EXPECT_LE(falsely, takes * 3 / 100) << "of " << takes;
}

TEST(WholeSeconds, SeveralLateOnesDoNotHideEachOther) {
  std::mt19937 random(9);
  const std::map<size_t, double> late = {{20, 1.6}, {25, 1.9}, {31, 1.6}, {80, 2.4}};
  const auto list = told(written(5.0, 1000.45, 0.02, late, random));
  ASSERT_EQ(list.size(), late.size());
  for (const auto& [shot, seconds] : late) EXPECT_NEAR(list.at(shot).middle(), seconds, 1.0) << shot;
}

TEST(WholeSeconds, WhatIsUnevenByNatureAndFewShotsAreNotJudged) {
  std::mt19937 random(10);
  EXPECT_TRUE(told(written(20.0, 1000.3, 2.0, {}, random)).size() < 8);
  Times few;
  few.at = {0, 5, 11, 15, 20};
  few.unclocked.assign(5, 0);
  few.clock_s = 1.01;
  EXPECT_TRUE(told(few).empty()) << "two shots to either side tell too little";
}

}  // namespace
}  // namespace askcount::ingest
