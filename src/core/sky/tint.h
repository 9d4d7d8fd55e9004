// SPDX-License-Identifier: GPL-3.0-or-later
// The colour of a clear sky by the sun's altitude: what rulers and pictures of a day are tinted with.
#pragma once

#include <array>
#include <cstdint>

namespace askcount::sky {

/// sRGB codes of red, green and blue for the sun's altitude in degrees, from a deep blue at −18° to day.
std::array<std::uint8_t, 3> tint(double sun_altitude_deg);

}  // namespace askcount::sky
