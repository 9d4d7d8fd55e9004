// SPDX-License-Identifier: GPL-3.0-or-later
// The sun alone: where it is at a moment, when it goes down.
#pragma once

#include <optional>
#include <vector>

#include "base/instant.h"
#include "sky/ephemeris.h"
#include "sky/place.h"

namespace askcount::sky {

/// The sun's centre at a moment.
Direction sun_at(Instant instant, const Place& place);

/// Altitude of the sun's centre when its upper edge is on a flat horizon: refraction 34′ and half its width
/// 16′.
inline constexpr double kSunDown_deg = -0.833;

/// The first moment in [from, to] at which the sun falls through `altitude_deg`; nothing where it does not.
/// To a second.
std::optional<Instant> sun_falls_through(double altitude_deg, const Place& place, Instant from, Instant to);

/// The sun's altitude at `n` even moments from `from` to `to`, both included; 10° throughout for stretches
/// above 600 days.
std::vector<double> sun_altitudes(const Place& place, Instant from, Instant to, int n);

}  // namespace askcount::sky
