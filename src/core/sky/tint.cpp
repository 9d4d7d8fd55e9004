// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/tint.h"

#include <cstddef>
#include <iterator>

namespace askcount::sky {
namespace {

struct Stop {
  double altitude_deg;
  std::array<std::uint8_t, 3> rgb;
};
constexpr Stop kStops[] = {{-18, {27, 34, 63}},     {-9, {63, 68, 114}},  {-4, {139, 111, 140}},
                           {-0.8, {208, 134, 108}}, {2, {232, 190, 134}}, {6, {211, 207, 184}},
                           {14, {185, 212, 222}}};

}  // namespace

std::array<std::uint8_t, 3> tint(double altitude) {
  if (altitude <= kStops[0].altitude_deg) return kStops[0].rgb;
  for (std::size_t i = 1; i < std::size(kStops); ++i) {
    const Stop &below = kStops[i - 1], &above = kStops[i];
    if (altitude >= above.altitude_deg) continue;
    const double share = (altitude - below.altitude_deg) / (above.altitude_deg - below.altitude_deg);
    std::array<std::uint8_t, 3> rgb{};
    for (std::size_t k = 0; k < 3; ++k)
      rgb[k] = static_cast<std::uint8_t>(below.rgb[k] + share * (above.rgb[k] - below.rgb[k]));
    return rgb;
  }
  return kStops[std::size(kStops) - 1].rgb;
}

}  // namespace askcount::sky
