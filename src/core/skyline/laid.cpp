// SPDX-License-Identifier: GPL-3.0-or-later
#include "skyline/laid.h"

#include <cmath>

namespace askcount::skyline {

Laid laid_under(const image::Coded8& picture, const View& view, const sky::Panorama& panorama) {
  constexpr double kRad = 3.14159265358979323846 / 180;
  Laid laid{{panorama.width, panorama.height}, {}};
  laid.rgba.resize(static_cast<size_t>(panorama.width) * panorama.height * 4);
  const sky::Axes axes(view.aim);
  const double per_x = view.optics.focal_mm / view.optics.sensor_width_mm * picture.size.width,
               per_y = view.optics.focal_mm / view.optics.sensor_height_mm * picture.size.height;
  std::vector<std::pair<double, double>> east_north;  // of each column at the horizon
  for (int x = 0; x < panorama.width; ++x) {
    const double a = panorama.direction_at(x + 0.5, 0).azimuth_deg * kRad;
    east_north.emplace_back(std::sin(a), std::cos(a));
  }
  for (int y = 0; y < panorama.height; ++y) {
    const double h = panorama.direction_at(0, y + 0.5).altitude_deg * kRad, level = std::cos(h),
                 up = std::sin(h);
    if (std::abs(h) > 89.9 * kRad) continue;
    std::uint8_t* to = laid.rgba.data() + static_cast<size_t>(y) * panorama.width * 4;
    for (int x = 0; x < panorama.width; ++x, to += 4) {
      const auto& [east, north] = east_north[static_cast<size_t>(x)];
      const auto along = [&](const std::array<double, 3>& axis) {
        return level * (east * axis[0] + north * axis[1]) + up * axis[2];
      };
      const double depth = along(axes.forward);
      if (depth <= 1e-3) continue;
      const double u = picture.size.width / 2.0 + along(axes.right) / depth * per_x,
                   v = picture.size.height / 2.0 - along(axes.up) / depth * per_y;
      if (!(u >= 0 && v >= 0 && u < picture.size.width && v < picture.size.height)) continue;
      const std::uint8_t* from = picture.row(static_cast<int>(v)) + 3 * static_cast<int>(u);
      to[0] = from[0];
      to[1] = from[1];
      to[2] = from[2];
      to[3] = 255;
    }
  }
  return laid;
}

}  // namespace askcount::skyline
