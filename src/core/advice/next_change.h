// SPDX-License-Identifier: GPL-3.0-or-later
// Beside the tripod: what the hands do next, and what they have done.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "journal/hand.h"
#include "take/take.h"

namespace askcount::advice {

/// What to do next, in words for a cold and tired person.
struct NextChange {
  std::string what;                  ///< "Shutter one click slower, 2 to 2.5 s"
  std::string why;                   ///< "After frame 120, in 40 s."
  std::optional<ramp::Click> click;  ///< nothing where nothing is to be turned
  std::optional<ramp::Exposure>
      set;                    ///< the dials are set to this at once: a new day, or the filters come off
  bool filters_off = false;   ///< with that the filters come off
  long long frames_left = 0;  ///< until it is due
  Seconds in_s = 0;           ///< real seconds until then, while something runs by the clock
};

/// `ramp` is the take's for the hour it is really shot at, null where there is none; `frame` the one that is
/// being shot, from 0 (−1 before the first). While nothing runs `state` is empty, and the plan is told;
/// nothing is late then. Throws nothing.
NextChange next_change(const take::Take& take, const ramp::Ramp* ramp, const journal::ShootState& state,
                       long long frame);

/// "1/60 s, f/8, ISO 100; the meter stands at −0.4". Empty where there is no ramp.
std::string dials_now_words(const take::Take& take, const ramp::Ramp* ramp, const journal::ShootState& state,
                            long long frame);

/// Turns, readings and notes of a shoot, the newest frame first, at most `most` lines.
std::vector<std::string> log_lines(const journal::ShootState& state, const std::string& zone, size_t most);

}  // namespace askcount::advice
