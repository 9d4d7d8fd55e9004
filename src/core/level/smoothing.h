// SPDX-License-Identifier: GPL-3.0-or-later
// The local line that levelling smooths by, and the median it judges by.
#pragma once

#include <algorithm>
#include <utility>
#include <vector>

namespace askcount::level {

/// The middle one by size (the upper of two); the values are left in another order. Not for none.
inline double median_of(std::vector<double>& v) {
  const auto middle = v.begin() + static_cast<long>(v.size() / 2);
  std::nth_element(v.begin(), middle, v.end());
  return *middle;
}

/// The weights by which values around `c` make the value there of a line through them, weighted towards the
/// middle (bisquare); they add up to 1. Only frames that are known count, of those from 0 to n − 1; none
/// where there are none.
template <typename Known>
std::vector<std::pair<long, double>> line_weights(Known known, long c, long n, long reach) {
  const long low = std::max(0L, c - reach), high = std::min(n - 1, c + reach);
  std::vector<std::pair<long, double>> out;
  double s0 = 0, s1 = 0, s2 = 0;
  for (long i = low; i <= high; ++i) {
    if (!known(i)) continue;
    const double x = static_cast<double>(i - c), u = x / static_cast<double>(reach + 1);
    const double w = (1 - u * u) * (1 - u * u);
    s0 += w;
    s1 += w * x;
    s2 += w * x * x;
    out.emplace_back(i, w);
  }
  const double det = s0 * s2 - s1 * s1;
  const bool line = det > 1e-9 * s0 * s0;
  for (auto& [i, w] : out) w *= line ? (s2 - s1 * static_cast<double>(i - c)) / det : 1 / s0;
  return out;
}

/// That value, of `value(i)`; 0 where nothing is known.
template <typename Value, typename Known>
double local_line(Value value, Known known, long c, long n, long reach) {
  double sum = 0;
  for (const auto& [i, w] : line_weights(known, c, n, reach)) sum += w * value(i);
  return sum;
}

}  // namespace askcount::level
