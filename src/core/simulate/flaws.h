// SPDX-License-Identifier: GPL-3.0-or-later
// What the stand-in's lens and sensor do to every frame, on request.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/fields.h"
#include "image/pixels.h"

namespace askcount::simulate {

struct Flaws {
  int dust = 0;              ///< specks before the sensor
  int hot_pixels = 0;        ///< places of the sensor that are lit in the dark
  double bent_pct = 0;       ///< how much too far out a corner lies; below 0 is a barrel
  double corners_stops = 0;  ///< how much darker than the middle a corner is
  bool operator==(const Flaws&) const = default;
  bool none() const { return *this == Flaws{}; }
};

/// As JSON, and back.
void visit(Fields& fields, Flaws& flaws);

/// Puts one of them in: "dust=5", "hot=40", "bent=-3", "corners=1". Throws BadInput.
void add_flaw(Flaws& flaws, std::string_view text);

/// A speck: its middle in shares of width and height, its radius in shares of the width, and how much light
/// it takes in its middle, in stops. The same for the same seed.
struct Speck {
  double x = 0, y = 0, radius = 0, stops = 0;
};
std::vector<Speck> specks(const Flaws& flaws, std::uint64_t seed);

/// A hot place, in pixels of a frame of this size, and how much of white it collects in a second. The same
/// for the same seed; never within 2 pixels of the edge.
struct HotPlace {
  int x = 0, y = 0;
  float white_per_s = 0;
};
std::vector<HotPlace> hot_places(const Flaws& flaws, image::Size size, std::uint64_t seed);

/// What reaches the sensor of what was seen: bent by r·(1 + bent·r²), darker by corners·r² stops (r is 1 at a
/// corner), and less behind the specks.
void through_glass(const Flaws& flaws, std::uint64_t seed, image::Linear32& seen);

}  // namespace askcount::simulate
