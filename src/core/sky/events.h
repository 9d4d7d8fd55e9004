// SPDX-License-Identifier: GPL-3.0-or-later
// When things happen in the sky: crossings of an altitude, and the events of one local day.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/json.h"
#include "sky/ephemeris.h"

namespace askcount::sky {

// Altitudes of a body's centre that mean something, in degrees.
inline constexpr double kPointDown_deg = -34.0 / 60;  ///< a star on a flat horizon: refraction 34′
inline constexpr double kCivil_deg = -6, kNautical_deg = -12, kAstronomical_deg = -18;
inline constexpr double kGoldenHigh_deg = 6,
                        kGoldenLow_deg = -4;  ///< golden light, by photographers' convention
inline constexpr double kBlueLow_deg = -6;    ///< blue light from −4° down to here, by the same

/// A moment at which a body passes an altitude.
struct Crossing {
  Instant at;
  bool rising = false;
};

/// Every passage of `altitude_deg` in [from, to], to a second, in order; grazing ones too (found to 0.001°).
std::vector<Crossing> crossings_of(const Ephemeris& sky, Body body, double altitude_deg, const Place& place,
                                   Instant from, Instant to);

/// The moon's rising and setting: its upper edge on a flat horizon, seen from the place.
std::vector<Crossing> moon_crossings(const Ephemeris& sky, const Place& place, Instant from, Instant to);

/// The moment in [from, to] at which a body stands highest over the meridian; nothing where it does not pass
/// it then.
std::optional<Instant> transit_of(const Ephemeris& sky, Body body, const Place& place, Instant from,
                                  Instant to);

/// What happens on one local day; an event that does not has a reason instead.
struct DayEvents {
  Day day;
  std::map<std::string, Instant> at;  ///< by key: "sunrise", "solar_noon", "sunset", "civil_dawn" …
  std::map<std::string, std::string> reasons;  ///< why a key has no moment, in words
  double moon_lit = 0;                         ///< share at local noon
  bool moon_waxing = false;

  std::optional<Instant> operator[](const std::string& key) const {
    const auto it = at.find(key);
    return it == at.end() ? std::nullopt : std::optional(it->second);
  }
};

/// All keys, in the order they are told.
const std::vector<std::string>& event_keys();

/// The events of a local day at a place. About 5 ms.
DayEvents events_of(const Day& day, const Place& place);

/// ISO times with offset by key, null where there is none, and "reasons" beside them.
Json to_json(const DayEvents& events, const Place& place);

/// A stretch of real darkness: the sun below −18°, the moon down, the core at least `core_deg` up.
struct Darkness {
  Instant from, to;
  double core_highest_deg = 0;
};

/// Those within [from, to], in order. `core_deg` of −90 leaves the core out of it.
std::vector<Darkness> darkness(const Ephemeris& sky, const Place& place, Instant from, Instant to,
                               double core_deg);

}  // namespace askcount::sky
