// SPDX-License-Identifier: GPL-3.0-or-later
// How much light sun and moon give, in lux and EV.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "sky/ephemeris.h"

namespace askcount::sky {

/// What lies between sun and ground.
enum class Cover { Clear, Thin, Clouded, Dark };
/// How many times less light comes through it than through a clear sky: 1, 2, 3 and 10.
/// Source: Janiczek and DeYoung, US Naval Observatory Circular 171 (1987).
double cover_divisor(Cover cover);

/// The word in takes and options: "clear", "thin", "clouded", "dark". cover_of throws BadInput.
const char* cover_word(Cover cover);
Cover cover_of(std::string_view word);

/// A moonless, starlit night.
inline constexpr double kStarlight_lux = 6.5e-4;

/// Illuminance on level ground under a clear sky, in lux, for the sun's altitude; a starlit night below −18°.
/// Source: Circular 171.
double daylight_lux(double sun_altitude_deg);

/// The same of the moon, for its altitude, its phase angle (0 at full moon) and its distance. Source:
/// Circular 171.
double moonlight_lux(double moon_altitude_deg, double phase_angle_deg, double distance_km);

/// How many of a town's lamps are lit (0 to 1) when the day still gives this many lux: they come on one after
/// the other between 70 and 20 lux, as their light sensors are set.
double lamps_lit(double day_lux);

/// When a town's lamps come on (or, in the morning, go out) between two moments: from the first lamp to the
/// last. Nothing where they do neither.
struct LampsChange {
  Instant from, to;
  bool on = true;
};
std::optional<LampsChange> lamps_change(const Ephemeris& sky, const Place& place, Cover cover, Instant from,
                                        Instant to);

/// Everything together, with the lights of a town once they are lit.
double ambient_lux(const Ephemeris& sky, Instant at, const Place& place, Cover cover, double town_lux);

/// EV at ISO 100 of an illuminance: log2(lux ÷ 2.5). Source: incident-light meter, C = 250 (ISO 2720).
double ev100(double lux);

}  // namespace askcount::sky
