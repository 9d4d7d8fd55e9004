// SPDX-License-Identifier: GPL-3.0-or-later
// Weather entered by hand: dew, cold, wind.
#pragma once

#include <optional>

#include "base/finding.h"
#include "base/units.h"

namespace askcount::sky {

/// What is expected at the place. Humidity or dew point, whichever is known.
struct Weather {
  std::optional<double> humidity;  ///< share, 0 to 1, at the take's temperature
  std::optional<double> dew_point_c;
  double cooling_c_per_hour = 1;  ///< how fast the air cools after the start
  double wind_m_s = 0;
  bool tall_tripod = false;  ///< centre column up, or legs fully out
  bool heater = false;       ///< a lens heater comes along
  bool operator==(const Weather&) const = default;
};

/// Dew point in °C of air at `temperature_c` with a relative humidity (0.01 to 1), by the Magnus formula
/// with 17.62 and 243.12 °C over water (Sonntag 1990).
double dew_point_c(double temperature_c, double humidity);

/// A clear sky cools glass below the air by about this much.
inline constexpr double kGlassBelowAir_c = 2;

/// Seconds from the start until glass is at the dew point, the air cooling evenly; nothing without humidity,
/// or where it does not get there within `longest_s`; 0 where it is there already.
std::optional<Seconds> dew_after_s(const Weather& weather, double temperature_c, Seconds longest_s);

/// Dew with the time it starts, cold batteries, wind on a long lens or tall tripod, each with what to do.
Findings judge(const Weather& weather, double temperature_c, double focal_mm, Seconds field_s,
               const std::string& dew_clock);

}  // namespace askcount::sky
