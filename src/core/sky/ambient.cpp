// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/ambient.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "sky/angles.h"

namespace askcount::sky {
namespace {

/// log10 of lux as a cubic in altitude ÷ 90°, in pieces from above.
struct Piece {
  double above;
  double c[4];
};

template <size_t N>
double from_table(const Piece (&pieces)[N], double altitude, double below) {
  const double x = altitude / 90;
  for (const Piece& p : pieces)
    if (altitude >= p.above) return std::pow(10.0, p.c[0] + x * (p.c[1] + x * (p.c[2] + x * p.c[3])));
  return below;
}

constexpr double kFirstLamp_lux = 70, kLastLamp_lux = 20;
constexpr double kMeanParallax_deg = 0.951;

}  // namespace

double cover_divisor(Cover cover) {
  constexpr double kDivisors[] = {1, 2, 3, 10};
  return kDivisors[static_cast<int>(cover)];
}

const char* cover_word(Cover cover) {
  static constexpr const char* words[] = {"clear", "thin", "clouded", "dark"};
  return words[static_cast<int>(cover)];
}

Cover cover_of(std::string_view word) {
  for (const Cover c : {Cover::Clear, Cover::Thin, Cover::Clouded, Cover::Dark})
    if (word == cover_word(c)) return c;
  throw bad_input(say("\"{}\" is not a cloud cover.", word), say("Use clear, thin, clouded or dark."));
}

double daylight_lux(double altitude) {
  static constexpr Piece pieces[] = {
      {20, {3.74, 3.97, -4.07, 1.47}},         {5, {3.05, 13.28, -45.98, 64.33}},
      {-0.8, {2.88, 22.26, -207.64, 1034.30}}, {-5, {2.88, 21.81, -258.11, -858.36}},
      {-12, {2.70, 12.17, -431.69, -1899.83}}, {-18, {13.84, 262.72, 1447.42, 2797.93}}};
  return from_table(pieces, altitude, kStarlight_lux);
}

double moonlight_lux(double altitude, double phase_angle_deg, double distance_km) {
  static constexpr Piece pieces[] = {{20, {-1.95, 4.06, -4.24, 1.56}},
                                     {5, {-2.58, 12.58, -42.58, 59.06}},
                                     {-0.8, {-2.79, 24.27, -252.95, 1321.29}}};
  const double full = from_table(pieces, altitude, 0);
  const double f = std::clamp(std::abs(phase_angle_deg), 0.0, 180.0);
  const double parallax = std::asin(kEarth_km / std::max(distance_km, 3e5)) * 180 / 3.14159265358979;
  return full * std::pow(10.0, -8.68e-3 * f - 2.2e-9 * f * f * f * f) *
         std::pow(parallax / kMeanParallax_deg, 2);
}

double lamps_lit(double day_lux) {
  return std::clamp(
      std::log(kFirstLamp_lux / std::max(day_lux, 1e-9)) / std::log(kFirstLamp_lux / kLastLamp_lux), 0.0,
      1.0);
}

std::optional<LampsChange> lamps_change(const Ephemeris& sky, const Place& place, Cover cover, Instant from,
                                        Instant to) {
  const auto day = [&](Instant t) {
    return daylight_lux(sky.at(Body::Sun, t, place).altitude_deg) / cover_divisor(cover);
  };
  // The moment the day passes a level between two that lie on either side of it.
  const auto when = [&](double lux, Instant a, Instant b) {
    const bool was = day(a) > lux;
    while (b - a > std::chrono::seconds(1)) {
      const Instant middle = a + (b - a) / 2;
      (day(middle) > lux) == was ? a = middle : b = middle;
    }
    return b;
  };
  const auto stride = std::max<std::chrono::milliseconds>(std::chrono::minutes(5), (to - from) / 2000);
  std::optional<Instant> first;
  for (Instant a = from; a < to; a += stride) {
    const Instant b = std::min<Instant>(a + stride, to);
    for (const bool on : {true, false}) {
      const double begins = on ? kFirstLamp_lux : kLastLamp_lux, ends = on ? kLastLamp_lux : kFirstLamp_lux;
      const auto past = [on](double lux, double level) { return on ? lux < level : lux > level; };
      if (!past(day(a), begins) && past(day(b), begins)) {
        LampsChange change{when(begins, a, b), to, on};
        for (Instant c = change.from; c < to; c += std::chrono::minutes(2))
          if (const Instant d = std::min<Instant>(c + std::chrono::minutes(2), to); past(day(d), ends)) {
            change.to = past(day(c), ends) ? c : when(ends, c, d);
            break;
          }
        return change;
      }
    }
  }
  return {};
}

double ambient_lux(const Ephemeris& sky, Instant at, const Place& place, Cover cover, double town_lux) {
  const double sun = daylight_lux(sky.at(Body::Sun, at, place).altitude_deg);
  double moon = 0;
  if (const double altitude = sky.at(Body::Moon, at, place).altitude_deg; altitude > -0.8) {
    const MoonFace face = sky.moon(at);
    moon = moonlight_lux(altitude, face.phase_angle_deg, face.distance_km);
  }
  const double divisor = cover_divisor(cover);
  return (sun + moon) / divisor + town_lux * lamps_lit(sun / divisor);
}

double ev100(double lux) {
  return std::log2(std::max(lux, 1e-9) / 2.5);
}

}  // namespace askcount::sky
