// SPDX-License-Identifier: GPL-3.0-or-later
// Where a take is shot.
#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace askcount::sky {

/// A place. Degrees, north and east positive; `zone` is a time zone's name; height above the sea in metres.
/// One without a name is not known: its place is not set.
struct Place {
  std::string name;
  double latitude_deg = 0;
  double longitude_deg = 0;
  std::string zone = "UTC";
  double height_m = 0;
  bool known() const { return !name.empty(); }
  /// Whether somebody has said where on the globe it is: one that is told by its name alone has no sky.
  /// (Where the equator meets the meridian of Greenwich there is sea.)
  bool located() const { return latitude_deg != 0 || longitude_deg != 0; }
  bool operator==(const Place&) const = default;
};

/// The made-up places that ship: Tern Quay, Gannet Head and the window sill of the alum jar.
std::vector<Place> demo_places();

/// Throws BadInput unless the coordinates are on the globe and the zone exists.
void check_place(const Place& place);

/// Latitude and longitude as people paste them: "56.1, -5.5", "56.1 N 5.5 W", "56°06'00\"N, 5°30'00\"W", "N
/// 56 06.0 W 5 30.0", "56 6 0, -5 30 0". With letters the order is free, without them latitude comes first.
/// Throws BadInput.
std::pair<double, double> parse_coordinates(std::string_view text);

/// "56.1000° N, 5.5000° W".
std::string format_coordinates(double latitude_deg, double longitude_deg);

/// How far below level a clear sea horizon lies from a height: 1.76 minutes of arc × √metres, in degrees
/// (mean refraction).
double sea_horizon_dip_deg(double height_m);

}  // namespace askcount::sky
