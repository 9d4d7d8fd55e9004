// SPDX-License-Identifier: GPL-3.0-or-later
// When to shoot: windows of light with their reasons, and the best nights of a month.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/units.h"
#include "sky/events.h"

namespace askcount::sky {

/// One window of a day that a take fits into.
struct Window {
  std::string kind;                 ///< "day into night", "sunrise", "milky way", "moonrise"
  Instant from, to;                 ///< the light that is wanted
  Instant start;                    ///< first shot, for a take of the given field time
  std::string reason;               ///< why then
  bool fits = true;                 ///< the take ends within the window
  std::optional<Instant> other_to;  ///< where methods differ about the end: the later one
};

/// Those of the night that follows noon of a local day, in order of time: day into night starts 60 to 90
/// minutes before sunset and lasts until the blue light is gone; the milky way wants astronomical darkness,
/// the moon down, the core at least 10° up, two hours or more since sunset and an hour left before first
/// light, or by another method before sunrise (other_to); the sunrise is that of the next morning; moonrise
/// only where the sun is down. Kinds that do not happen are left out, with a reason in `missing`.
std::vector<Window> windows_of(const Day& day, const Place& place, Seconds field_s,
                               std::vector<std::string>* missing = nullptr);

/// A night's hours for the galaxy's core.
struct Night {
  Day day;             ///< its evening
  Seconds dark_s = 0;  ///< sun below −18°, moon down, core 10° up or more
  Instant from;        ///< of the longest such stretch
  double moon_lit = 0;
};

/// The nights of `days` days from `first` on, best first, as many as have any such hours. A year takes under
/// a second.
std::vector<Night> best_nights(const Day& first, int days, const Place& place);

/// What a frame at that moment will look like: "sun 12° up, full daylight".
std::string look_words(const Ephemeris& sky, Instant at, const Place& place);

}  // namespace askcount::sky
