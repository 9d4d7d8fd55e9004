// SPDX-License-Identifier: GPL-3.0-or-later
// A picture put right: what the lens bent and darkened, and a horizon that is not level.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "image/pixels.h"
#include "optics/lens_grid.h"

namespace askcount::optics {

/// Puts pictures of one size right in one step, so that they are interpolated once: the largest part that is
/// full after bending and turning becomes all of the picture. Const and safe from several threads once made.
class Warp {
 public:
  /// `turn_deg` clockwise; `vignetting_stops` is how much darker the corners become in the end.
  Warp(LensGrid lens, double turn_deg, double vignetting_stops, image::Size size);

  image::Size size() const { return size_; }
  /// How much larger things become: 1 is as they were.
  double enlarges() const { return 1 / shows_; }
  /// Where a place of the picture that comes out (shares) lay in the one as it was shot.
  std::array<double, 2> before(double x, double y) const;
  /// Where a place of the picture as it was shot comes to lie; the other way about.
  std::array<double, 2> after(double x, double y) const;
  /// A picture of that size. One of codes becomes light where corners become lighter or darker.
  image::Picture apply(image::Picture picture) const;

 private:
  std::array<double, 2> turned(double x, double y, double shows) const;
  bool full(double shows) const;

  LensGrid lens_;
  image::Size size_;
  double cos_ = 1, sin_ = 0, shows_ = 1;
  struct Maps;
  std::shared_ptr<const Maps> maps_;  ///< where each pixel comes from; null where none moves
  std::vector<float> light_;          ///< of each pixel; empty where it stays
};

}  // namespace askcount::optics
