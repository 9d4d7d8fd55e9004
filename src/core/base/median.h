// SPDX-License-Identifier: GPL-3.0-or-later
// The middle value of a few numbers.
#pragma once

#include <algorithm>
#include <vector>

namespace askcount {

/// The upper of the two middle ones where they are even in number; 0 for none.
inline double median(std::vector<double> v) {
  if (v.empty()) return 0;
  std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
  return v[v.size() / 2];
}

}  // namespace askcount
