// SPDX-License-Identifier: GPL-3.0-or-later
// Constants of the sums about angles on the sphere.
#pragma once

namespace askcount::sky {

inline constexpr double kRad = 3.14159265358979323846 / 180;  ///< radians in a degree
inline constexpr double kEarth_km = 6378.137;                 ///< equatorial radius, WGS 84

}  // namespace askcount::sky
