// SPDX-License-Identifier: GPL-3.0-or-later
// A camera that slides between its shots: the step, the time it needs to stand still, and how what is near
// moves.
#pragma once

#include "base/finding.h"
#include "plan/kit.h"
#include "plan/sums.h"

namespace askcount::plan {

/// What a slider is told.
struct Slider {
  double travel_m = 0;       ///< from the first shot to the last; 0 where there is none
  Seconds settling_s = 0.5;  ///< until nothing sways any more after a step
  double nearest_m = 2;      ///< what the camera slides past
  bool operator==(const Slider&) const = default;
  bool moves() const { return travel_m > 0; }
};

/// What comes of it.
struct Sliding {
  double step_mm = 0;      ///< between two shots
  double near_step = 0;    ///< of what is nearest, as a share of the frame's width from shot to shot
  double near_across = 0;  ///< the same over the whole take: how much it goes past what is far away
  Seconds near_crossing_film_s = 0;  ///< film time in which it would cross the screen
  Seconds free_s = 0;                ///< left to move and settle between shutter and next shot
};

/// By the pinhole model: focal length ÷ sensor width × travel ÷ distance. `busy_s` is how long a shot keeps
/// the camera open and exposing (writing may go on while it slides).
Sliding sliding_of(const Slider& slider, const Sums& sums, const Body& body, double focal_mm, Seconds busy_s);

/// Whether there is time to settle, and whether what is near is too fast: it should cross the screen in no
/// less than 4 s, as a panned picture should.
Findings judge(const Sliding& sliding, const Slider& slider);

}  // namespace askcount::plan
