// SPDX-License-Identifier: GPL-3.0-or-later
// askcount sky --over: the sky over a picture taken at the place.
#pragma once

#include "forecast/place_picture.h"
#include "verbs.h"

namespace askcount::cli {

/// What --over goes with.
struct OverAsked {
  std::string picture, output, take, from, to;
  std::optional<double> bearing, compass, tilt, roll, focal, sensor_width;
  double variation = 0;
  std::vector<double> sun_at, known;
  bool save = false, force = false;
};
void add_over(const Verb& verb, OverAsked& asked);

/// Draws it. `place` is where, unless the take says. Throws BadInput for what cannot be.
Answer over_answer(const OverAsked& asked, const PlaceAsked& place);

}  // namespace askcount::cli
