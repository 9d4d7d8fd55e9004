// SPDX-License-Identifier: GPL-3.0-or-later
#include "simulate/smear.h"

#include <algorithm>
#include <cmath>

namespace askcount::simulate {
namespace {

constexpr double kLeast_px = 0.5;  // of a way: a sharp edge is as soft as a pixel

}  // namespace

Smear::Smear(const std::vector<std::vector<Point>>& shape, int width, int height)
    : width_(width), height_(height), sums_(static_cast<size_t>(width + 1) * height) {
  Coverage drawn(width, height);
  for (const std::vector<Point>& polygon : shape) drawn.add(polygon);
  for (int y = 0; y < height; ++y) {
    const float* row = drawn.row(y);
    double* sum = sums_.data() + static_cast<size_t>(y) * (width + 1);
    for (int x = 0; x < width; ++x) sum[x + 1] = sum[x] + row[x];
  }
}

double Smear::covered_left_of(double x, int y) const {
  const double* sum = sums_.data() + static_cast<size_t>(y) * (width_ + 1);
  if (x <= 0) return 0;
  if (x >= width_) return sum[width_];
  const auto cell = static_cast<int>(x);
  return sum[cell] + (x - cell) * (sum[cell + 1] - sum[cell]);
}

float Smear::share(double x, int y, double from, double to) const {
  const double middle = (from + to) / 2, half = std::max(kLeast_px, std::abs(to - from)) / 2;
  // The part of a pixel's middle column that is covered, averaged over every place the shape has been.
  const double at = x + 0.5;
  return static_cast<float>(
      (covered_left_of(at - (middle - half), y) - covered_left_of(at - (middle + half), y)) / (2 * half));
}

}  // namespace askcount::simulate
