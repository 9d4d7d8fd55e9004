// SPDX-License-Identifier: GPL-3.0-or-later
// A stretch of sky and land drawn flat, with the camera's frame in it: what is shown, and where things stand.
#pragma once

#include <vector>

#include "sky/framing.h"

namespace askcount::sky {

/// How a panorama of this many pixels shows the sky: degrees of azimuth across, of altitude up, both at one
/// scale.
struct Panorama {
  int width = 0, height = 0;
  double middle_deg = 180;  ///< azimuth in the middle
  double low_deg = -15;     ///< altitude at the lower edge
  double per_degree = 7;    ///< pixels

  bool operator==(const Panorama&) const = default;
  double across_deg() const { return width / per_degree; }
  double x_of(double azimuth_deg) const;
  double y_of(double altitude_deg) const { return height - (altitude_deg - low_deg) * per_degree; }
  Direction direction_at(double x, double y) const;
};

/// The panorama that shows all of the frame, at both ends of a head's move, with some land below it; `foot`
/// pixels at the lower edge are kept for directions.
Panorama panorama_for(const Move& move, const Optics& optics, int width, int height, double foot);

/// Turns the end of a move that is aimed (`end` for the far one) by degrees. Where the head stands still both
/// ends go along. Bearings stay within 360°, tilt within ±89°, roll within ±90°.
void turn(Move& move, bool end, double bearing_deg, double tilt_deg, double roll_deg);

/// Raises the horizon near a bearing, to half a degree from −5° to 60°; points stand every 5°. A horizon
/// without points is level all round first, so that only there it rises. One that was traced, with points
/// nearer to each other than those, is corrected within half a degree, to a tenth.
void raise(std::vector<HorizonPoint>& horizon, double bearing_deg, double altitude_deg);

}  // namespace askcount::sky
