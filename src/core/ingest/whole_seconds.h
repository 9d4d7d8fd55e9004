// SPDX-License-Identifier: GPL-3.0-or-later
// What a clock that writes whole seconds hides of a shot's lateness, and what the shots around it tell of it.
#pragma once

#include <optional>
#include <vector>

#include "ingest/beat.h"

namespace askcount::ingest {

/// How much later than its beat a shot came, in seconds: at least and at most; below zero earlier.
struct Lateness {
  double least = 0, most = 0;
  double middle() const { return (least + most) / 2; }
  /// Whether it came at another time than the beat, for all that timers are uneven by.
  bool is_off() const {
    constexpr double kUneven = 0.11, kTold = 0.7;
    return (least > -kUneven && middle() > kTold) || (most < kUneven && middle() < -kTold);
  }
};

/// How late every shot of a run came by the shots around it (the first shot, then that of each step): a time
/// of whole seconds says only that the shot began within that second, but an even beat has to go through the
/// seconds of all its neighbours. Nothing where they fit no even beat, or are too few on either side.
/// Linear constraints in two unknowns, the beat and its start; the extremes are lines through two of them.
std::vector<std::optional<Lateness>> lateness_by_neighbours(const Times& times, const Run& run);

}  // namespace askcount::ingest
