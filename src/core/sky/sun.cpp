#include "sky/sun.h"

#include <fmt/format.h>
#include <libnova/nutation.h>
#include <libnova/solar.h>
#include <libnova/transform.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/units.h"

namespace askcount::sky {
namespace {

constexpr double kUnixEpoch_jd = 2440587.5;
constexpr double kJ2000_jd = 2451545.0;
constexpr double kAberration_deg = 20.4898 / 3600;
constexpr double kStarlight_lux = 6.5e-4;

double julian_day(Instant instant) {
  return kUnixEpoch_jd + static_cast<double>(instant.time_since_epoch().count()) / 86400000.0;
}

}  // namespace

void check_place(const Place& place) {
  if (!(std::abs(place.latitude_deg) <= 90))
    throw bad_input(fmt::format("Latitude {} is not between -90 and 90.", format_number(place.latitude_deg, 4)));
  if (!(std::abs(place.longitude_deg) <= 180))
    throw bad_input(fmt::format("Longitude {} is not between -180 and 180.", format_number(place.longitude_deg, 4)));
  wall_time(Instant{}, place.zone);
}

Direction sun_at(Instant instant, const Place& place) {
  const double jd = julian_day(instant);
  // libnova gives the sun's longitude for the equinox of 2000. By 2026 that is 0.37° off, a minute and a half of
  // sunset: brought to the equinox of date (general precession, IAU 1976), with nutation and aberration.
  const double centuries = (jd - kJ2000_jd) / 36525;
  ln_helio_posn geometric{};
  ln_get_solar_geom_coords(jd, &geometric);
  ln_nutation nutation{};
  ln_get_nutation(jd, &nutation);
  ln_lnlat_posn ecliptic{geometric.L + (5029.0966 + 1.11113 * centuries) * centuries / 3600 + nutation.longitude -
                             kAberration_deg / geometric.R,
                         geometric.B};
  ln_equ_posn sun{};
  ln_get_equ_from_ecl(&ecliptic, jd, &sun);
  ln_lnlat_posn here{place.longitude_deg, place.latitude_deg};
  ln_hrz_posn seen{};
  ln_get_hrz_from_equ(&sun, &here, jd, &seen);
  return {seen.alt, std::fmod(seen.az + 180, 360)};  // libnova counts from south
}

std::optional<Instant> sun_falls_through(double altitude_deg, const Place& place, Instant from, Instant to) {
  const auto above = [&](Instant t) { return sun_at(t, place).altitude_deg >= altitude_deg; };
  const auto stride = std::chrono::minutes(5);
  for (Instant a = from; a < to; a += stride) {
    Instant b = std::min<Instant>(a + stride, to);
    if (!above(a) || above(b)) continue;
    while (b - a > std::chrono::milliseconds(500)) {
      const Instant middle = a + (b - a) / 2;
      (above(middle) ? a : b) = middle;
    }
    return b;
  }
  return {};
}

std::vector<double> sun_altitudes(const Place& place, Instant from, Instant to, int n) {
  const int known = std::clamp(n, 2, 80);
  std::vector<double> at(static_cast<size_t>(known));
  for (int i = 0; i < known; ++i)
    at[static_cast<size_t>(i)] = sun_at(from + (to - from) * i / (known - 1), place).altitude_deg;
  std::vector<double> out(static_cast<size_t>(std::max(n, 0)));
  for (int i = 0; i < n; ++i) {
    const double x = n > 1 ? static_cast<double>(i) * (known - 1) / (n - 1) : 0;
    const int low = std::min(static_cast<int>(x), known - 2);
    const double part = x - low;
    out[static_cast<size_t>(i)] = at[static_cast<size_t>(low)] * (1 - part) + at[static_cast<size_t>(low) + 1] * part;
  }
  return out;
}

double daylight_lux(double altitude) {
  struct Piece {
    double above;
    double c[4];
  };
  static constexpr Piece pieces[] = {{20, {3.74, 3.97, -4.07, 1.47}},
                                     {5, {3.05, 13.28, -45.98, 64.33}},
                                     {-0.8, {2.88, 22.26, -207.64, 1034.30}},
                                     {-5, {2.88, 21.81, -258.11, -858.36}},
                                     {-12, {2.70, 12.17, -431.69, -1899.83}},
                                     {-18, {13.84, 262.72, 1447.42, 2797.93}}};
  const double x = altitude / 90;
  for (const Piece& p : pieces)
    if (altitude >= p.above)
      return std::pow(10.0, p.c[0] + x * (p.c[1] + x * (p.c[2] + x * p.c[3])));
  return kStarlight_lux;
}

}  // namespace askcount::sky
