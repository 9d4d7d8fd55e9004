// SPDX-License-Identifier: GPL-3.0-or-later
#include "optics/lens_grid.h"

#include <algorithm>
#include <cmath>

namespace askcount::optics {

LensGrid::Crossing LensGrid::at(double x, double y) const {
  const double u = std::clamp((x + kMargin) / (1 + 2 * kMargin), 0.0, 1.0) * (kAcross - 1);
  const double v = std::clamp((y + kMargin) / (1 + 2 * kMargin), 0.0, 1.0) * (kDown - 1);
  const int i = std::min(static_cast<int>(u), kAcross - 2), j = std::min(static_cast<int>(v), kDown - 2);
  const auto p = static_cast<float>(u - i), q = static_cast<float>(v - j);
  const Crossing* a = crossings.data() + j * kAcross + i;
  const Crossing* b = a + kAcross;
  const auto between = [p, q](float ul, float ur, float ll, float lr) {
    const float upper = ul + p * (ur - ul), lower = ll + p * (lr - ll);
    return upper + q * (lower - upper);
  };
  Crossing out;
  for (size_t k = 0; k < out.place.size(); ++k)
    out.place[k] = between(a[0].place[k], a[1].place[k], b[0].place[k], b[1].place[k]);
  out.light = between(a[0].light, a[1].light, b[0].light, b[1].light);
  return out;
}

LensGrid grid_by_hand(double distortion_pct, double dark_stops, image::Size shape) {
  LensGrid grid;
  grid.bends = distortion_pct != 0;
  grid.darkens = dark_stops != 0;
  if (!grid.bends && !grid.darkens) return grid;
  const double half_w = shape.width / 2.0, half_h = shape.height / 2.0;
  const double corner = half_w * half_w + half_h * half_h;
  for (int row = 0; row < LensGrid::kDown; ++row)
    for (int column = 0; column < LensGrid::kAcross; ++column) {
      const double x = LensGrid::across(column) - 0.5, y = LensGrid::down(row) - 0.5;
      const double r2 = (4 * x * x * half_w * half_w + 4 * y * y * half_h * half_h) / corner;
      const double out = 1 + distortion_pct / 100 * r2;
      LensGrid::Crossing c;
      for (size_t k = 0; k < 6; k += 2) {
        c.place[k] = static_cast<float>(0.5 + out * x);
        c.place[k + 1] = static_cast<float>(0.5 + out * y);
      }
      c.light = static_cast<float>(std::exp2(dark_stops * r2));
      grid.crossings.push_back(c);
    }
  return grid;
}

}  // namespace askcount::optics
