// SPDX-License-Identifier: GPL-3.0-or-later
// How fast a subject moves, from two test pictures.
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "image/pixels.h"

namespace askcount::motion {

/// One place where something moved: from where to where, in pixels of the full picture.
struct Arrow {
  double x = 0, y = 0;    ///< in the first picture
  double dx = 0, dy = 0;  ///< to the second
};

/// What moved between two pictures.
struct Motion {
  double seconds = 0;     ///< between the pictures
  double dx = 0, dy = 0;  ///< of what moves, in pixels of the full picture; y downwards
  double px_per_s = 0;
  double frame_widths_per_s = 0;
  double direction_deg = 0;   ///< 0 to the right, 90 up, 180 to the left
  double crossing_s = 0;      ///< for the frame's width (its height where it moves more upright than level)
  double moving_share = 0;    ///< of the picture
  std::vector<Arrow> arrows;  ///< some of the places, for drawing
};

/// Finds the motion most of what moves shares: dense optical flow (DIS) and, for moves too large for it, the
/// best match of what changed; whichever explains the second picture better. The still background and noise
/// below three quarters of a pixel at 1,500 pixels across are set aside. Brightness may differ between the
/// pictures. What it shares is measured by least squares (Lucas and Kanade, 1981) in every part of the
/// pictures. Throws BadInput where the sizes differ and Failed where nothing moves.
Motion find_motion(const image::Coded8& a, const image::Coded8& b, image::Size full, double seconds);

/// The same for two files; the time between them from their metadata unless `seconds` is given. Throws
/// BadInput where neither tells it, or where they were taken at the same moment.
Motion motion_between(const std::filesystem::path& a, const std::filesystem::path& b,
                      std::optional<double> seconds = {});

/// From where a thing was to where it is, marked by hand, in pixels of a picture of size `full`.
Motion motion_marked(double x0, double y0, double x1, double y1, image::Size full, double seconds);

/// Speed across the frame, in frame widths a second, of something `distance_m` away moving at `metres_per_s`
/// square to the view, by the pinhole model: focal length ÷ sensor width × speed ÷ distance.
double frame_widths_per_s(double metres_per_s, double distance_m, double focal_mm, double sensor_width_mm);

}  // namespace askcount::motion
