// SPDX-License-Identifier: GPL-3.0-or-later
// A shape that moves sideways while the shutter is open, however far.
#pragma once

#include <vector>

#include "simulate/raster.h"

namespace askcount::simulate {

/// A shape drawn once, to be smeared along its way without steps.
class Smear {
 public:
  /// `shape` in pixels, from its own left end (0) on; `width` and `height` hold all of it.
  Smear(const std::vector<std::vector<Point>>& shape, int width, int height);

  int width() const { return width_; }
  int height() const { return height_; }
  /// How much of the exposure the shape covers the pixel `x` of row `y` (from its own top), 0 to 1, where its
  /// left end goes evenly from `from` to `to` pixels (any order).
  float share(double x, int y, double from, double to) const;

 private:
  double covered_left_of(double x, int y) const;

  int width_, height_;
  std::vector<double> sums_;  // of coverage along each row, from its left end
};

}  // namespace askcount::simulate
