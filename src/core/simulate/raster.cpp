// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/raster.h"

#include <algorithm>
#include <cmath>

namespace askcount::simulate {

void Coverage::add(const std::vector<Point>& polygon, float weight) {
  constexpr int kSub = 4;
  double top = 1e9, bottom = -1e9;
  for (const Point& p : polygon) {
    top = std::min(top, p.y);
    bottom = std::max(bottom, p.y);
  }
  const int y0 = std::max(0, static_cast<int>(std::floor(top)));
  const int y1 = std::min(height_, static_cast<int>(std::ceil(bottom)));
  if (y0 >= y1) return;
  first_ = std::min(first_, y0);
  last_ = std::max(last_, y1);
  std::vector<double> crossings;
  for (int y = y0; y < y1; ++y)
    for (int sub = 0; sub < kSub; ++sub) {
      const double at = y + (sub + 0.5) / kSub;
      crossings.clear();
      for (size_t i = 0; i < polygon.size(); ++i) {
        const Point& a = polygon[i];
        const Point& b = polygon[(i + 1) % polygon.size()];
        if ((a.y <= at) != (b.y <= at)) crossings.push_back(a.x + (at - a.y) / (b.y - a.y) * (b.x - a.x));
      }
      std::sort(crossings.begin(), crossings.end());
      float* row = share_.data() + static_cast<size_t>(y) * width_;
      for (size_t i = 0; i + 1 < crossings.size(); i += 2) {
        const double from = std::clamp(crossings[i], 0.0, static_cast<double>(width_));
        const double to = std::clamp(crossings[i + 1], 0.0, static_cast<double>(width_));
        for (int x = static_cast<int>(from); x < static_cast<int>(std::ceil(to)); ++x) {
          const double part = std::min<double>(x + 1, to) - std::max<double>(x, from);
          row[x] = std::min(1.0F, row[x] + weight * static_cast<float>(part) / kSub);
        }
      }
    }
}

void Coverage::clear() {
  for (int y = first_; y < last_; ++y)
    std::fill_n(share_.begin() + static_cast<long>(y) * width_, width_, 0.0F);
  first_ = 1 << 30;
  last_ = 0;
}

}  // namespace askcount::simulate
