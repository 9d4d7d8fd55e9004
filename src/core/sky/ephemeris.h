// SPDX-License-Identifier: GPL-3.0-or-later
// Where sun, moon and the bright core of the galaxy stand, for a stretch of time.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "base/instant.h"
#include "sky/place.h"

namespace askcount::sky {

/// A direction in the sky: degrees above the horizon (without refraction) and from north over east.
struct Direction {
  double altitude_deg = 0;
  double azimuth_deg = 0;
};

enum class Body { Sun, Moon, Core };

/// "sun", "moon", "core".
const char* body_word(Body body);

/// The moon's face.
struct MoonFace {
  double lit = 0;              ///< share of the disc
  double phase_angle_deg = 0;  ///< sun, moon, earth: 0 at full moon
  bool waxing = false;
  double distance_km = 0;
  double width_deg = 0;  ///< apparent diameter, from the earth's centre
};

/// Positions from libnova (VSOP87 for the sun, ELP 2000-82B for the moon), brought to the equinox of date,
/// calculated every twelve hours of the stretch and interpolated between (six points: better than a second of
/// arc). The galaxy's core is Sagittarius A* at 17h 45m 40.0s, −29° 00′ 28″ (J2000). The moon is seen from
/// the place, not from the earth's centre. Asking outside the stretch is allowed up to a day; beyond, throws
/// std::out_of_range. Const calls are safe from several threads.
class Ephemeris {
 public:
  /// Up to two years. Costs half a millisecond for each half day.
  Ephemeris(Instant from, Instant to);

  Direction at(Body body, Instant instant, const Place& place) const;
  MoonFace moon(Instant instant) const;
  /// The galaxy's band: its middle line every 5° of galactic longitude, the core's end first, once round.
  std::vector<Direction> band(Instant instant, const Place& place) const;

 private:
  struct Node {
    std::array<double, 3> sun{}, moon{};  // km, equator of date
    double equation_deg = 0;              // of the equinoxes
    double longitude_sun = 0, longitude_moon = 0;
  };
  /// Unit vectors on the equators of the first and the last node's dates: between them precession is even.
  struct Fixed {
    std::array<double, 3> first{}, last{};
  };
  std::array<double, 3> of_date(const Fixed& fixed, double place) const;
  std::array<double, 3> vector_of(Body body, double place) const;
  double days_of(Instant instant) const;

  double first_jd_ = 0;
  std::vector<Node> nodes_;
  Fixed core_;
  std::vector<Fixed> band_;
};

/// An ephemeris that covers [from, to], shared: the last few are kept, so that asking again costs nothing.
/// Safe from several threads.
std::shared_ptr<const Ephemeris> ephemeris_for(Instant from, Instant to);

}  // namespace askcount::sky
