// Where the sun is, when it goes down, and how much light it leaves.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/instant.h"

namespace askcount::sky {

/// Where a take is shot. Degrees, north and east positive; `zone` is a time zone's name.
struct Place {
  std::string name;
  double latitude_deg = 0;
  double longitude_deg = 0;
  std::string zone = "UTC";
  bool operator==(const Place&) const = default;
};

/// Throws BadInput unless the coordinates are on the globe and the zone exists.
void check_place(const Place& place);

/// A direction in the sky: degrees above the horizon (without refraction) and from north over east.
struct Direction {
  double altitude_deg = 0;
  double azimuth_deg = 0;
};

/// The sun's centre at a moment. Source: libnova (VSOP87).
Direction sun_at(Instant instant, const Place& place);

/// Altitude of the sun's centre when its upper edge is on a flat horizon: refraction 34′ and half its width 16′.
inline constexpr double kSunDown_deg = -0.833;

/// The first moment in [from, to] at which the sun falls through `altitude_deg`; nothing where it does not. To a
/// second.
std::optional<Instant> sun_falls_through(double altitude_deg, const Place& place, Instant from, Instant to);

/// The sun's altitude at `n` even moments from `from` to `to`, both included; between hundreds of calculated ones a line
/// is good to 0.1°, so no more than 80 are calculated.
std::vector<double> sun_altitudes(const Place& place, Instant from, Instant to, int n);

/// Illuminance on level ground under a clear sky, in lux, for the sun's altitude; a starlit night below −18°.
/// Source: Janiczek and DeYoung, US Naval Observatory Circular 171 (1987).
double daylight_lux(double sun_altitude_deg);

}  // namespace askcount::sky
