// SPDX-License-Identifier: GPL-3.0-or-later
// A take's two clocks drawn small: where on a day it was shot, and how long its film is.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "book/book.h"
#include "sky/tint.h"

namespace askcount::book {

/// Bars on an axis from 0 to 1.
struct Clocks {
  double field_from = 0, field_to = 0;
  double film_from = 0, film_to = 0;
  bool day = false;              ///< the axis is a day; otherwise the take fills it
  std::string from, middle, to;  ///< what stands at its ends and middle: "0:00", "noon", "24:00"
  std::vector<std::array<std::uint8_t, 3>> tints;  ///< of the field bar from left to right; empty where the
                                                   ///< sun is not known
};

/// A take that lies within a day by the place's clock stands on that day from midnight to midnight, one that
/// goes over midnight on a day from noon to noon; what takes longer than a day, or whose start is not known,
/// fills the axis. A minute of film fills it too; longer film does not go beyond. The film's bar stands below
/// the middle of the other as far as there is room.
Clocks clocks_of(const Row& row);

/// "Tern Quay, 9 Oct 2026", "Window sill, 3 to 7 Oct 2026"; empty where neither is known.
std::string where_and_when(const Row& row);

/// "250 of 250", "301 of 672", "412", "672 planned".
std::string frames_words(const Row& row);
/// "0.143 to 0.001"; empty where it was not levelled.
std::string flicker_words(const Row& row);

}  // namespace askcount::book
