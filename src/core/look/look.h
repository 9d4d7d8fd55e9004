// SPDX-License-Identifier: GPL-3.0-or-later
// The look: how a frame is developed, in a few values with honest units.
#pragma once

#include <array>
#include <cstddef>

namespace askcount::look {

/// One look. A new one leaves a frame as it was shot.
struct Look {
  double light = 0;         ///< stops
  double warmth_k = 0;      ///< kelvin of the light that is taken for white; 0 as it was shot
  double cast = 0;          ///< stops of red and blue against green: below zero greener, above towards rose
  double depth = 1;         ///< slope at mid grey, stops out for stops in
  double bright_parts = 0;  ///< stops at the upper fifth of the tones
  double dark_parts = 0;    ///< stops at the lower fifth
  double black = 0;         ///< per cent of white that becomes black; below zero black is lifted to it
  double colour = 1;        ///< factor of every colour's distance from grey
  double haze = 0;          ///< share of the veil over distant parts that is lifted, 0 to 1
  double crispness = 0;     ///< contrast of the finest detail, more by this share
  bool operator==(const Look&) const = default;
};

/// A value of the look as a lane over film time, a field of a file and an option of the command.
struct Lane {
  const char* key;    ///< "bright-parts"
  const char* title;  ///< "Bright parts"
  const char* unit;   ///< "stops", "K", "×", "%" or empty
  double least, most;
  double neutral;  ///< leaves the frame as it is
  double step;     ///< the finest that is worth setting
  int digits;      ///< after the point that it deserves
  double Look::*value;
};

/// Every value there is, in the order they are shown.
inline constexpr size_t kLanes = 10;
const std::array<Lane, kLanes>& lanes();

/// What warmth counts as where neither a camera nor a person has said: daylight.
inline constexpr double kDaylight = 5600;

/// Throws BadInput naming the value, its range and `where` it was found.
void check_look(const Look& look, const char* where);

}  // namespace askcount::look
