// SPDX-License-Identifier: GPL-3.0-or-later
// The two clocks as rulers: where their ticks stand and which frames get a thread.
#pragma once

#include <vector>

#include "base/units.h"
#include "plan/sums.h"

namespace askcount::plan {

/// A ruler over seconds: what it shows and how far its ticks are apart.
struct Ruler {
  Seconds from = 0;
  Seconds to = 0;
  Seconds tick = 1;
  std::vector<Seconds> ticks() const;
};

/// A step of usual size (1, 2, 5 s … 1, 2, 5, 10, 15, 30 min, 1, 2, 3, 6, 12 h, days) with which `length` has
/// at most `most` ticks.
Seconds usual_step(Seconds length, int most);

/// The field clock around a take: `start_of_day` is the first shot in seconds of its day, so that ticks fall
/// on whole times; a sixth of the field time is left free on either side.
Ruler field_ruler(Seconds start_of_day, Seconds field_s);

/// The film clock from 0 to the clip's end, with at most `most` ticks.
Ruler film_ruler(Seconds clip_s, int most);

/// Frames (from 0) that get a thread between the clocks: the first, the last and evenly chosen ones between,
/// at most `most`.
std::vector<long long> threads(long long frames, int most);

/// Positions on a logarithmic ruler of intervals from 0.5 s to 1 h, as a share of its length; clamped.
double interval_place(Seconds interval);
/// The interval at a share of that ruler.
Seconds interval_at(double share);

}  // namespace askcount::plan
