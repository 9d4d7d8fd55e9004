// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers by chance that are the same on every machine and in every run.
#pragma once

#include <random>
#include <vector>

namespace askcount::test {

/// Throws numbers from a seed.
class Dice {
 public:
  explicit Dice(unsigned seed) : engine_(seed) {}

  /// From 0 up to 1, without it.
  double unit() { return static_cast<double>(engine_()) / 4294967296.0; }
  double between(double low, double high) { return low + (high - low) * unit(); }
  /// From `low` to `high`, both among them.
  int whole(int low, int high) { return low + static_cast<int>(unit() * (high - low + 1)); }
  bool chance(double share) { return unit() < share; }
  /// About 0 with a standard deviation of 1: twelve throws less six.
  double normal() {
    double sum = -6;
    for (int i = 0; i < 12; ++i) sum += unit();
    return sum;
  }
  template <class T>
  const T& one_of(const std::vector<T>& list) {
    return list[static_cast<size_t>(whole(0, static_cast<int>(list.size()) - 1))];
  }

 private:
  std::mt19937 engine_;
};

}  // namespace askcount::test
