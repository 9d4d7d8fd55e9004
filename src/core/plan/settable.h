// SPDX-License-Identifier: GPL-3.0-or-later
// What of a plan can really be set: timers know steps, cameras know thirds of a stop, frames are whole.
#pragma once

#include <string>

#include "plan/kit.h"
#include "plan/sums.h"

namespace askcount::plan {

/// The plan as timer and camera can be told it.
struct Settable {
  Seconds interval_s = 0;  ///< the nearest the timer runs at, never so short that the shot does not fit
  Seconds shutter_s =
      0;  ///< the engraved third of a stop nearest to it; a whole step of a timer that holds it on bulb
  Seconds field_s = 0;  ///< the take then lasts
  double trail = 0;
  bool as_planned = true;  ///< nothing differs from the plan by more than half a per cent
};

/// Whether a timer holds the shutter open with the camera on bulb: one that can, where the shutter is longer
/// than the dial has, or is none that the dial has and long enough to be held. Only for a single exposure a
/// shot.
bool is_held(const Timer& timer, int exposures, Seconds shutter_s, Seconds dial_s);
/// Whether a shutter is longer than a dial that ends at `dial_s` (and stands for 32 s where 30 is engraved).
bool beyond_dial(Seconds shutter_s, Seconds dial_s);

/// The time nearest to this one that a timer can be told between shots: a whole step, or one of its list.
Seconds nearest_time(const Timer& timer, Seconds s);
/// The next longer one; its longest where there is none.
Seconds next_time(const Timer& timer, Seconds s);
/// The longest time between shots that it can be told.
Seconds longest_time(const Timer& timer);
/// "in steps of 1 s", or "which knows 1 s, 5 s, 10 s".
std::string times_words(const Timer& timer);

/// Pure. `sums` must be complete.
Settable settable(const Sums& sums, const Timer& timer, const Body& body);

}  // namespace askcount::plan
