// SPDX-License-Identifier: GPL-3.0-or-later
// What cold takes from batteries.
#pragma once

#include <algorithm>

namespace askcount {

/// How good a battery still is at a temperature, as a share of its rating, which was given for
/// `rated_at_c`: 1.5 % less a degree, never below 30 %. Source: makers' curves for lithium-ion cells, drawn
/// as one line.
inline double cold_share(double temperature_c, double rated_at_c = 20) {
  return std::clamp(1 - 0.015 * (rated_at_c - temperature_c), 0.3, 1.0);
}

}  // namespace askcount
