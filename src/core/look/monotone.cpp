// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/monotone.h"

#include <algorithm>
#include <cmath>

namespace askcount::look {

Monotone::Monotone(std::vector<double> x, std::vector<double> y) : x_(std::move(x)), y_(std::move(y)) {
  const size_t n = x_.size();
  slope_.assign(n, 0.0);
  for (size_t i = 1; i + 1 < n; ++i) {
    const double before = (y_[i] - y_[i - 1]) / (x_[i] - x_[i - 1]);
    const double after = (y_[i + 1] - y_[i]) / (x_[i + 1] - x_[i]);
    slope_[i] = before * after > 0 ? 2 * before * after / (before + after) : 0;
  }
  if (n > 1) {
    slope_[0] = (y_[1] - y_[0]) / (x_[1] - x_[0]);
    slope_[n - 1] = (y_[n - 1] - y_[n - 2]) / (x_[n - 1] - x_[n - 2]);
  }
  limit();
}

Monotone::Monotone(std::vector<double> x, std::vector<double> y, size_t at, double slope)
    : Monotone(std::move(x), std::move(y)) {
  slope_[at] = slope;
  limit();
}

void Monotone::limit() {
  for (size_t i = 0; i + 1 < x_.size(); ++i) {
    const double secant = (y_[i + 1] - y_[i]) / (x_[i + 1] - x_[i]);
    for (const size_t end : {i, i + 1}) {
      if (secant == 0 || slope_[end] * secant < 0) slope_[end] = 0;
      if (std::abs(slope_[end]) > 3 * std::abs(secant)) slope_[end] = 3 * secant;
    }
  }
}

double Monotone::operator()(double x) const {
  if (x_.empty()) return 0;
  if (x <= x_.front()) return y_.front();
  if (x >= x_.back()) return y_.back();
  const auto i = static_cast<size_t>(std::upper_bound(x_.begin(), x_.end(), x) - x_.begin()) - 1;
  const double h = x_[i + 1] - x_[i], t = (x - x_[i]) / h;
  const double t2 = t * t, t3 = t2 * t;
  return y_[i] * (2 * t3 - 3 * t2 + 1) + h * slope_[i] * (t3 - 2 * t2 + t) + y_[i + 1] * (3 * t2 - 2 * t3) +
         h * slope_[i + 1] * (t3 - t2);
}

}  // namespace askcount::look
