// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/sun.h"

#include <algorithm>

#include "sky/events.h"

namespace askcount::sky {
namespace {

constexpr auto kLongest = std::chrono::hours(24 * 600);

}  // namespace

std::optional<Instant> sun_falls_through(double altitude_deg, const Place& place, Instant from, Instant to) {
  const auto ephemeris = ephemeris_for(from, std::min<Instant>(to, from + kLongest));
  const Ephemeris& sky = *ephemeris;
  for (const Crossing& c :
       crossings_of(sky, Body::Sun, altitude_deg, place, from, std::min<Instant>(to, from + kLongest)))
    if (!c.rising) return c.at;
  return {};
}

std::vector<double> sun_altitudes(const Place& place, Instant from, Instant to, int n) {
  std::vector<double> list(static_cast<size_t>(std::max(n, 0)));
  if (to - from >
      kLongest) {  // days can no longer be told apart on a ruler: as bright as they are on average
    std::fill(list.begin(), list.end(), 10.0);
    return list;
  }
  const auto ephemeris = ephemeris_for(from, to);
  const Ephemeris& sky = *ephemeris;
  for (int i = 0; i < n; ++i)
    list[static_cast<size_t>(i)] =
        sky.at(Body::Sun, from + (to - from) * i / std::max(1, n - 1), place).altitude_deg;
  return list;
}

}  // namespace askcount::sky
