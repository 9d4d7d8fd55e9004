// SPDX-License-Identifier: GPL-3.0-or-later
// What would happen if this were keyed into a timer by hand.
#pragma once

#include <optional>
#include <vector>

#include "timer/program.h"

namespace askcount::timer {

/// What a hand keyed in. One of interval and gap, as it was meant; the timer itself counts what it counts.
struct Keyed {
  Seconds delay_s = 0;  ///< of a timer that starts by its clock the time of day, in seconds
  Seconds hold_s = 0;
  Seconds time_s = 0;   ///< what was keyed in for its one time, whichever the timer counts
  long long count = 0;  ///< 0 for endless
  bool sound = false;
  int each = 0;  ///< releases at every turn; 0 where nobody said
  bool operator==(const Keyed&) const = default;
};

/// The camera the timer presses.
struct Pressed {
  Seconds shutter_s = 1;  ///< of its own dial, all exposures of a shot and dark frames included
  Seconds busy_s = 0.6;   ///< after a shot until it hears a press again
  bool bulb = false;      ///< open as long as the timer holds
  std::vector<Seconds> opens_s =
      {};           ///< of a shutter that follows the light, a shot each; empty for one that stands
  int presses = 1;  ///< that a shot wants
};

/// What then really happens.
struct Outcome {
  Seconds interval_s = 0;  ///< start to start of presses
  Seconds open_s = 0;      ///< of one exposure
  Seconds gap_s = 0;
  long long pressed = 0;                  ///< presses in all (of a plan's length, where endless)
  long long shots = 0;                    ///< that the camera heard
  long long missed = 0;                   ///< presses that came while it was busy
  std::optional<long long> first_missed;  ///< the first of them (from 0)
  Seconds field_s = 0;                    ///< first opening to last closing
  long long in_time = 0;                  ///< shots within the plan's field time
  Findings findings;
};

/// Plays the program against the camera and compares it with the plan. Throws BadInput for times the timer
/// cannot be told (below zero, off its steps, above its limit).
/// With a `start_clock` ("17:50") the delay is compared with that.
Outcome what_happens(const Keyed& keyed, const Timer& timer, const Pressed& camera, const plan::Sums& plan,
                     const std::string& start_clock = {});

/// The camera as a program asks for it. Who keys in a hold of 2 s or more, for a shutter that could be held,
/// has it on bulb.
Pressed camera_for(const Program& program, Seconds writing_s, Seconds dark_s, Seconds keyed_hold_s = 0);

}  // namespace askcount::timer
