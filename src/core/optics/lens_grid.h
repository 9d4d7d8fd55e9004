// SPDX-License-Identifier: GPL-3.0-or-later
// Where a lens put what belongs at a place, and how much light it took there: for any size of picture.
#pragma once

#include <array>
#include <vector>

#include "image/pixels.h"

namespace askcount::optics {

/// A lens over the frame and a margin of a tenth around it, known at the crossings of a grid. Positions are
/// shares of the upright frame's width and height.
struct LensGrid {
  static constexpr int kAcross = 97, kDown = 97;
  static constexpr double kMargin = 0.1;

  struct Crossing {
    std::array<float, 6> place{};  ///< x and y of red, green and blue in the picture as it was shot
    float light = 1;               ///< what light there is to be multiplied by
  };
  std::vector<Crossing> crossings;  ///< rows from the top; empty where the lens does nothing
  bool bends = false, darkens = false, fringes = false;

  /// Where a crossing lies.
  static double across(int column) { return (1 + 2 * kMargin) * column / (kAcross - 1) - kMargin; }
  static double down(int row) { return (1 + 2 * kMargin) * row / (kDown - 1) - kMargin; }
  /// What is known of any place, from the crossings around it; beyond the margin as at its edge.
  Crossing at(double x, double y) const;
};

/// A lens by two values. Distortion in percent is (actual − right) ÷ right distance from the middle, at a
/// corner, growing with the square of that distance (the third-order term of Seidel); dark corners in stops
/// grow likewise (the fourth power of the cosine, to first order). `shape` is any size of the frame's shape.
LensGrid grid_by_hand(double distortion_pct, double dark_stops, image::Size shape);

}  // namespace askcount::optics
