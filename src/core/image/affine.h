// SPDX-License-Identifier: GPL-3.0-or-later
// Straight maps of places in one picture to places in another: shifted, turned, made larger or smaller.
#pragma once

#include <array>
#include <cmath>
#include <numbers>

namespace askcount::image {

/// (x, y) goes to (xx·x + xy·y + x0, yx·x + yy·y + y0). Places are in pixels; the middle of the first pixel
/// is at 0.5.
struct Affine {
  double xx = 1, xy = 0, x0 = 0;
  double yx = 0, yy = 1, y0 = 0;
  bool operator==(const Affine&) const = default;

  std::array<double, 2> operator()(double x, double y) const {
    return {xx * x + xy * y + x0, yx * x + yy * y + y0};
  }
  /// Whether rows stay rows and columns columns.
  bool straight() const { return xy == 0 && yx == 0 && xx > 0 && yy > 0; }
  /// Turned clockwise (y goes down) about a place, then shifted.
  static Affine turned(double turn_deg, double about_x, double about_y, double dx = 0, double dy = 0) {
    const double a = turn_deg * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    return {c, -s, about_x - c * about_x + s * about_y + dx, s, c, about_y - s * about_x - c * about_y + dy};
  }
  static Affine scaled(double across, double down) { return {across, 0, 0, 0, down, 0}; }
  static Affine shifted(double dx, double dy) { return {1, 0, dx, 0, 1, dy}; }
  /// The map that does `first`, then this.
  Affine after(const Affine& first) const {
    return {xx * first.xx + xy * first.yx, xx * first.xy + xy * first.yy, xx * first.x0 + xy * first.y0 + x0,
            yx * first.xx + yy * first.yx, yx * first.xy + yy * first.yy, yx * first.x0 + yy * first.y0 + y0};
  }
  /// The way back. There must be one (the map does not flatten).
  Affine back() const {
    const double d = xx * yy - xy * yx;
    return {yy / d, -xy / d, (xy * y0 - yy * x0) / d, -yx / d, xx / d, (yx * x0 - xx * y0) / d};
  }
};

}  // namespace askcount::image
