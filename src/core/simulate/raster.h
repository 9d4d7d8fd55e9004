// SPDX-License-Identifier: GPL-3.0-or-later
// Soft-edged shapes for the stand-in's scenes.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <vector>

#include "image/pixels.h"

namespace askcount::simulate {

struct Point {
  double x = 0, y = 0;
};

/// How much of each pixel a shape covers, 0 to 1.
class Coverage {
 public:
  Coverage(int width, int height)
      : width_(width), height_(height), share_(static_cast<std::size_t>(width) * height) {}

  /// Adds a polygon's coverage times `weight` (points in pixels, any order of turning). Edges are sampled 4
  /// × 4.
  void add(const std::vector<Point>& polygon, float weight = 1);
  /// The rows that anything was added to: [first, last).
  int first_row() const { return first_; }
  int last_row() const { return last_; }
  const float* row(int y) const { return share_.data() + static_cast<std::size_t>(y) * width_; }
  void clear();

 private:
  int width_, height_;
  int first_ = 1 << 30, last_ = 0;
  std::vector<float> share_;
};

/// Lays a light of three colours over a picture where a shape covers it. The picture is of the shape's size.
/// Defined here, so that a scene's loops are compiled as the rest of it.
inline void paint(const Coverage& shape, const std::array<float, 3>& light, image::Linear32& onto) {
  for (int y = std::max(0, shape.first_row()); y < std::min(onto.size.height, shape.last_row()); ++y) {
    const float* share = shape.row(y);
    float* row = onto.row(y);
    for (int x = 0; x < onto.size.width; ++x) {
      const float s = share[x];
      if (s <= 0) continue;
      row[3 * x] += (light[0] - row[3 * x]) * s;
      row[3 * x + 1] += (light[1] - row[3 * x + 1]) * s;
      row[3 * x + 2] += (light[2] - row[3 * x + 2]) * s;
    }
  }
}

}  // namespace askcount::simulate
