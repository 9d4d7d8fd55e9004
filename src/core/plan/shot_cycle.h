// SPDX-License-Identifier: GPL-3.0-or-later
// One shot from its first opening to the moment the next may begin.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/finding.h"
#include "plan/kit.h"
#include "plan/solver.h"

namespace askcount::plan {

/// How a body with two card slots fills them: one after the other, the same on both, or raw on one and
/// compressed on the other.
enum class CardUse { InTurn, Both, Split };

/// The pause between the exposures of a bracket: a body sets its next shutter and releases again.
inline constexpr Seconds kBetweenBrackets_s = 0.25;

/// What a shot consists of besides one exposure.
struct ShotMake {
  int brackets = 1;          ///< exposures a shot
  double bracket_stops = 0;  ///< from one to the next, around the metered one
  bool dark_frames =
      false;        ///< long-exposure noise reduction: a dark frame as long as each exposure after it
  bool raw = true;  ///< files kept: raw, compressed or both
  bool compressed = false;
  CardUse cards = CardUse::InTurn;
  Seconds turning_s = 0;  ///< time a hand needs at the dials between shots
  Seconds lock_s = 0;     ///< the timer holds the camera so long before each shot
  double movie_mb = 0;    ///< of one picture of the camera's own movie, where that is all that is kept
  bool operator==(const ShotMake&) const = default;
};

/// Reads "3x2" (three exposures two stops apart). Throws BadInput unless 1 to 9 exposures up to 5 stops
/// apart.
void parse_brackets(std::string_view text, ShotMake& make);

/// The shutters of a shot's exposures for its middle one, shortest first.
std::vector<Seconds> bracket_shutters(const ShotMake& make, Seconds middle_s);

/// The shape the solver counts shots with: open for the sum of the exposures, with the camera's pause between
/// them, and with `spare` extra shots at either end of the take.
ShotShape shape_of(const ShotMake& make, long long spare);

/// Where the time of one shot goes. All in seconds.
struct ShotCycle {
  Seconds open_s = 0;           ///< all exposures and the pauses between them
  Seconds dark_s = 0;           ///< dark frames
  Seconds writing_s = 0;        ///< until the camera may start again
  long long writing_takes = 0;  ///< see Body::writing_takes
  Seconds turning_s = 0;
  Seconds lock_s = 0;
  Seconds sustained_s = 0;  ///< the interval below which the buffer fills: file sizes ÷ card speed
  /// The shortest interval that works for ever.
  Seconds shortest_interval_s() const;
};

ShotCycle cycle_of(const ShotMake& make, const Body& body, const Card* card, Seconds shutter_s);

/// Size of one shot's files, in megabytes.
double shot_mb(const ShotMake& make, const Body& body);

/// How many presses it takes for one to be heard by a camera that is busy this long: 1 where all are.
long long heard_every(Seconds busy_s, Seconds interval_s);
/// "only every fourth press is heard".
std::string heard_words(long long every);

/// Whether the cycle fits the interval (what the buffer makes of it is a budget's matter); what to do where
/// it does not.
Finding judge_cycle(const ShotCycle& cycle, Seconds interval_s);

}  // namespace askcount::plan
