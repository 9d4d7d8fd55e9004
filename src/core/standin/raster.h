// Soft-edged shapes for the stand-in's scenes.
#pragma once

#include <cstddef>
#include <vector>

namespace askcount::standin {

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

}  // namespace askcount::standin
