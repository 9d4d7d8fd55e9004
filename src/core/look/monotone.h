// SPDX-License-Identifier: GPL-3.0-or-later
// A smooth curve through points that rises and falls only where they do.
#pragma once

#include <vector>

namespace askcount::look {

/// Piecewise cubic through (x, y), x strictly rising, without overshoot: tangents by Fritsch and Carlson,
/// "Monotone piecewise cubic interpolation", SIAM J. Numer. Anal. 17 (1980). Before the first point and after
/// the last it stands.
class Monotone {
 public:
  Monotone(std::vector<double> x, std::vector<double> y);
  /// The same with the slope wished for at point `at`, given as far as monotony allows.
  Monotone(std::vector<double> x, std::vector<double> y, size_t at, double slope);
  double operator()(double x) const;

 private:
  void limit();
  std::vector<double> x_, y_, slope_;
};

}  // namespace askcount::look
