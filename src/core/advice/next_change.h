// Beside the tripod: what the hands do next, and what they have done.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "journal/due.h"
#include "take/take.h"

namespace askcount::advice {

/// What to do next, in words for a cold and tired person.
struct NextChange {
  std::string what;                 ///< "Shutter one click slower, 2 to 2.5 s"
  std::string why;                  ///< "After frame 120, in 40 s."
  std::optional<journal::Due> due;  ///< the click; nothing where nothing is to be turned
  Seconds in_s = 0;                 ///< field seconds until then; below zero where it is late
};

/// `ramp` is the take's, null where there is none; `frame` the one that is being shot, from 0 (−1 before the
/// first). While nothing runs `state` is empty. Throws nothing.
NextChange next_change(const take::Take& take, const ramp::Ramp* ramp, const journal::ShootState& state,
                       long long frame);

/// Changes and notes of a shoot, the newest frame first, at most `most` lines.
std::vector<std::string> log_lines(const journal::ShootState& state, const ramp::Ramp* ramp,
                                   const std::string& zone, size_t most);

}  // namespace askcount::advice
