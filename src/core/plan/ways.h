// SPDX-License-Identifier: GPL-3.0-or-later
// Ways to get the clip, side by side, and what other intervals would make of it.
#pragma once

#include <string>
#include <vector>

#include "plan/kit.h"
#include "plan/shot_cycle.h"
#include "plan/solver.h"
#include "plan/sums.h"

namespace askcount::plan {

/// One way to get the clip.
struct Way {
  std::string name;
  double film_s = 0;  ///< the film it gives
  double data_gb = 0;
  int pixels_across = 0, pixels_down = 0;
  double crop = 1;     ///< room to crop: its width ÷ the film's
  std::string retime;  ///< can the speed be changed afterwards
  std::string told;    ///< what the camera is told and shows where that differs; empty where it does not
  std::string light;   ///< what changing light does to it
  std::string words;   ///< all of it in a sentence
};

/// Stills by timer, the camera's own time-lapse movie, and video sped up, with this take's numbers. The
/// camera's movie plays the same shots at its own frame rate, which need not be the film's.
std::vector<Way> ways_of(const Sums& sums, const ShotMake& make, const Body& body, int film_pixels_across);

/// The take with one other interval: everything else that was said stays, as far as it can.
struct WhatIf {
  Seconds interval_s = 0;
  Solution solution;
};

/// Four intervals to set beside each other: half, this one, the next whole second or half as long again, and
/// double.
std::vector<Seconds> nearby_intervals(Seconds interval_s);

/// The wishes solved once for each interval, which is said last each time. Throws BadInput as solve() for
/// intervals that cannot stand.
std::vector<WhatIf> what_if(const std::vector<Wish>& wishes, const std::vector<Seconds>& intervals,
                            const ShotShape& shape);

}  // namespace askcount::plan
