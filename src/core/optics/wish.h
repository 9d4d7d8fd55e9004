// SPDX-License-Identifier: GPL-3.0-or-later
// What lens and sensor did to every frame of a take, and how it is to be undone.
#pragma once

#include <string>
#include <vector>

#include "base/fields.h"
#include "media/sensor_care.h"

namespace askcount::optics {

/// How it is known what the lens did.
enum class By {
  Nothing,  ///< nothing is undone
  Record,   ///< by the lens's record in the database
  Hand,     ///< by two values
};

/// A speck of dust before the sensor: a place that is darker in every frame.
struct Spot {
  double x = 0, y = 0;    ///< its middle, shares of the upright frame's width and height
  double radius = 0.005;  ///< share of its width
  bool operator==(const Spot&) const = default;
};

inline constexpr double kMostDistortion_pct = 20, kMostDark_stops = 4, kMostTurn_deg = 20;

struct Wish {
  By by = By::Nothing;
  std::string lens;  ///< its name in the database, where it is not the one the frames tell; empty for theirs
  double distortion_pct =
      0;  ///< by hand: how much too far out a corner lies, ±kMostDistortion_pct; below 0 is a barrel
  double dark_stops = 0;        ///< by hand: how much darker than the middle a corner is, to kMostDark_stops
  double vignetting_stops = 0;  ///< how much darker the corners are to be in the end, likewise
  double turn_deg = 0;          ///< the picture is turned clockwise, ±kMostTurn_deg: a level horizon
  bool looked = false;          ///< whether spots and hot pixels were looked for
  std::vector<Spot> spots;
  std::vector<media::SensorPlace> hot;  ///< of raw files
  std::string dark_frame;  ///< a raw file, or a folder of some, relative to the take's; empty for none
  bool operator==(const Wish&) const = default;

  /// Whether nothing is done to any picture.
  bool none() const { return *this == Wish{}; }
};

/// As JSON, and back. `hot` is a list of x and y in turn.
void visit(Fields& fields, Wish& wish);

}  // namespace askcount::optics
