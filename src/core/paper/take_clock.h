// SPDX-License-Identifier: GPL-3.0-or-later
// The wall clock of a take, as sheets and calendar print it.
#pragma once

#include <string>

#include "base/instant.h"
#include "take/take.h"

namespace askcount::paper {

/// The clock at the take's place, this many seconds after its first shot: "18:42".
inline std::string clock_at(const take::Take& t, double seconds, bool with_seconds = false) {
  return format_clock(later(t.start, seconds), t.place.zone, with_seconds);
}

/// The same with its day: "9 Oct, 18:42:10".
inline std::string moment_words(const take::Take& t, double seconds) {
  return day_words(day_of(later(t.start, seconds), t.place.zone)) + ", " + clock_at(t, seconds, true);
}

}  // namespace askcount::paper
