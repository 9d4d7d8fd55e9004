// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/ephemeris.h"

#include <libnova/lunar.h>
#include <libnova/nutation.h>
#include <libnova/precession.h>
#include <libnova/sidereal_time.h>
#include <libnova/solar.h>
#include <libnova/transform.h>

#include <algorithm>
#include <cmath>
#include <list>
#include <mutex>
#include <stdexcept>

#include "sky/angles.h"
#include "sky/sun.h"

namespace askcount::sky {
namespace {

constexpr double kUnixEpoch_jd = 2440587.5;
constexpr double kJ2000_jd = 2451545.0;
constexpr double kAu_km = 149597870.7;
constexpr double kMoonRadius_km = 1737.4;
constexpr double kAberration_deg = 20.4898 / 3600;
constexpr double kNode_days = 0.5;
constexpr int kPoints = 6;
constexpr double kMoonPrecision_rad = 1e-6;
constexpr double kCoreRa_deg = (17 + 45 / 60.0 + 40.04 / 3600) * 15, kCoreDec_deg = -(29 + 28.1 / 3600);

double julian_day(Instant instant) {
  return kUnixEpoch_jd + static_cast<double>(instant.time_since_epoch().count()) / 86400000.0;
}

/// Terrestrial less universal time in days: 69 s in 2020, growing by about 0.3 s a year then (libnova 0.16
/// extrapolates to twice of it). Source: IERS; Espenak and Meeus' polynomials for the years before.
double delta_t_days(double jd) {
  const double y = 2000 + (jd - kJ2000_jd) / 365.25, t = y - 2000;
  if (y < 2005)
    return (63.86 +
            t * (0.3345 + t * (-0.060374 + t * (0.0017275 + t * (0.000651814 + t * 0.00002373599))))) /
           86400;
  return (y < 2020 ? 64.7 + (y - 2005) * 0.31 : 69.36 + (y - 2020) * 0.02) / 86400;
}

std::array<double, 3> equatorial(double longitude_deg, double latitude_deg, double distance,
                                 double obliquity_deg) {
  const double l = longitude_deg * kRad, b = latitude_deg * kRad, e = obliquity_deg * kRad;
  const double x = std::cos(b) * std::cos(l), y = std::cos(b) * std::sin(l), z = std::sin(b);
  return {distance * x, distance * (y * std::cos(e) - z * std::sin(e)),
          distance * (y * std::sin(e) + z * std::cos(e))};
}

/// The sun at a moment: longitude of date, and where it is on the equator of date, in km.
struct SunNow {
  double longitude_deg = 0, equation_deg = 0;
  std::array<double, 3> place{};
};
/// Degrees of longitude from the equinox of 2000 to that of date: general precession (IAU 1976). libnova
/// gives longitudes for 2000.
double precession_deg(double centuries) {
  return (5029.0966 + 1.11113 * centuries) * centuries / 3600;
}

SunNow sun_now(double jde, const ln_nutation& nutation) {
  ln_helio_posn sun{};
  ln_get_solar_geom_coords(jde, &sun);
  const double obliquity = nutation.ecliptic + nutation.obliquity;
  SunNow s;
  s.longitude_deg =
      sun.L + precession_deg((jde - kJ2000_jd) / 36525) + nutation.longitude - kAberration_deg / sun.R;
  s.equation_deg = nutation.longitude * std::cos(obliquity * kRad);
  s.place = equatorial(s.longitude_deg, sun.B, sun.R * kAu_km, obliquity);
  return s;
}

double length(const std::array<double, 3>& v) {
  return std::sqrt(v[0] * v[0] + v[1] * v[1] + v[2] * v[2]);
}

/// The direction of an equatorial vector (km) from a place; near bodies with their parallax.
Direction seen_from(const Place& here, const std::array<double, 3>& v, double jd, double equation_deg,
                    bool near) {
  const double distance = length(v);
  const double sidereal_deg = ln_get_mean_sidereal_time(jd) * 15 + equation_deg + here.longitude_deg;
  const double ra = std::atan2(v[1], v[0]), dec = std::asin(v[2] / distance);
  const double hour = sidereal_deg * kRad - ra, lat = here.latitude_deg * kRad;
  const double sin_alt = std::sin(lat) * std::sin(dec) + std::cos(lat) * std::cos(dec) * std::cos(hour);
  const double azimuth =
      std::atan2(-std::cos(dec) * std::sin(hour),
                 std::sin(dec) * std::cos(lat) - std::cos(dec) * std::sin(lat) * std::cos(hour)) /
      kRad;
  double altitude = std::asin(std::clamp(sin_alt, -1.0, 1.0));
  if (near) altitude = std::atan2(std::sin(altitude) - kEarth_km / distance, std::cos(altitude));
  return {altitude / kRad, std::fmod(azimuth + 360, 360)};
}

double lagrange(const double* y, double x) {  // at whole places 0 … kPoints − 1
  double sum = 0;
  for (int i = 0; i < kPoints; ++i) {
    double w = y[i];
    for (int k = 0; k < kPoints; ++k)
      if (k != i) w *= (x - k) / (i - k);
    sum += w;
  }
  return sum;
}

}  // namespace

const char* body_word(Body body) {
  static constexpr const char* words[] = {"sun", "moon", "core"};
  return words[static_cast<int>(body)];
}

Ephemeris::Ephemeris(Instant from, Instant to) {
  first_jd_ = julian_day(from) - 3 * kNode_days - 1;
  const double days = julian_day(to) + 3 * kNode_days + 1 - first_jd_;
  nodes_.resize(static_cast<size_t>(std::max(8.0, std::ceil(std::min(days, 740.0) / kNode_days) + 1)));
  for (size_t i = 0; i < nodes_.size(); ++i) {
    const double jd = first_jd_ + static_cast<double>(i) * kNode_days, jde = jd + delta_t_days(jd);
    const double centuries = (jde - kJ2000_jd) / 36525, precession = precession_deg(centuries);
    ln_nutation nutation{};
    ln_get_nutation(jde, &nutation);
    const SunNow sun = sun_now(jde, nutation);
    // libnova's own distance function sums the whole series, twenty times as dear; the truncated one gives
    // all three.
    ln_rect_posn rect{};
    ln_get_lunar_geo_posn(jde, &rect, kMoonPrecision_rad);
    const double far_km = std::sqrt(rect.X * rect.X + rect.Y * rect.Y + rect.Z * rect.Z);
    const ln_lnlat_posn moon{std::atan2(rect.Y, rect.X) / kRad, std::asin(rect.Z / far_km) / kRad};
    Node& node = nodes_[i];
    node.longitude_sun = sun.longitude_deg;
    node.longitude_moon = moon.lng + precession + nutation.longitude;
    node.sun = sun.place;
    // The plane of the ecliptic turns a little too (47″ a century about the longitude 174.9°).
    const double tilt = 47.0029 * centuries / 3600 * std::sin((moon.lng + precession - 174.876) * kRad);
    node.moon =
        equatorial(node.longitude_moon, moon.lat - tilt, far_km, nutation.ecliptic + nutation.obliquity);
    node.equation_deg = sun.equation_deg;
  }
  const double last_jd = first_jd_ + static_cast<double>(nodes_.size() - 1) * kNode_days;
  const auto of_date = [&](ln_equ_posn j2000) -> Fixed {
    const auto at = [&](double jd) -> std::array<double, 3> {
      ln_equ_posn now{};
      ln_get_equ_prec(&j2000, jd, &now);
      return {std::cos(now.dec * kRad) * std::cos(now.ra * kRad),
              std::cos(now.dec * kRad) * std::sin(now.ra * kRad), std::sin(now.dec * kRad)};
    };
    return {at(first_jd_), at(last_jd)};
  };
  core_ = of_date({kCoreRa_deg, kCoreDec_deg});
  for (int l = 0; l <= 360; l += 5) {
    ln_gal_posn galactic{static_cast<double>(l), 0};
    ln_equ_posn j2000{};
    ln_get_equ2000_from_gal(&galactic, &j2000);
    band_.push_back(of_date(j2000));
  }
}

std::vector<Direction> Ephemeris::band(Instant instant, const Place& here) const {
  const double place = days_of(instant);
  std::vector<Direction> list;
  for (const Fixed& fixed : band_)
    list.push_back(seen_from(here, of_date(fixed, place), julian_day(instant),
                             nodes_[static_cast<size_t>(place)].equation_deg, false));
  return list;
}

double Ephemeris::days_of(Instant instant) const {
  const double days = (julian_day(instant) - first_jd_) / kNode_days;
  if (days < 0 || days > static_cast<double>(nodes_.size() - 1))
    throw std::out_of_range("Ephemeris asked beyond its stretch");
  return days;
}

std::array<double, 3> Ephemeris::of_date(const Fixed& fixed, double place) const {
  const double share = place / static_cast<double>(nodes_.size() - 1);
  std::array<double, 3> v{};
  for (size_t axis = 0; axis < 3; ++axis)
    v[axis] = fixed.first[axis] + share * (fixed.last[axis] - fixed.first[axis]);
  return v;
}

std::array<double, 3> Ephemeris::vector_of(Body body, double place) const {
  if (body == Body::Core) return of_date(core_, place);
  const auto first =
      std::clamp<long>(static_cast<long>(place) - 2, 0, static_cast<long>(nodes_.size()) - kPoints);
  std::array<double, 3> v{};
  for (size_t axis = 0; axis < 3; ++axis) {
    double y[kPoints];
    for (int k = 0; k < kPoints; ++k) {
      const Node& n = nodes_[static_cast<size_t>(first + k)];
      y[k] = (body == Body::Sun ? n.sun : n.moon)[axis];
    }
    v[axis] = lagrange(y, place - static_cast<double>(first));
  }
  return v;
}

Direction Ephemeris::at(Body body, Instant instant, const Place& here) const {
  const double place = days_of(instant);
  return seen_from(here, vector_of(body, place), julian_day(instant),
                   nodes_[static_cast<size_t>(place)].equation_deg, body != Body::Core);
}

std::shared_ptr<const Ephemeris> ephemeris_for(Instant from, Instant to) {
  struct Recent {
    Instant from, to;
    std::shared_ptr<const Ephemeris> sky;
  };
  static std::mutex lock;
  static std::list<Recent> recent;
  constexpr size_t kMost = 6;
  // Whole days, so that small moves of a take find the same one.
  const Instant a = std::chrono::floor<std::chrono::days>(from), b = std::chrono::ceil<std::chrono::days>(to);
  const std::lock_guard guard(lock);
  for (auto it = recent.begin(); it != recent.end(); ++it)
    if (it->from <= a && it->to >= b) {
      recent.splice(recent.begin(), recent, it);
      return recent.front().sky;
    }
  recent.push_front({a, b, std::make_shared<const Ephemeris>(a, b)});
  if (recent.size() > kMost) recent.pop_back();
  return recent.front().sky;
}

Direction sun_at(Instant instant, const Place& place) {
  const double jd = julian_day(instant), jde = jd + delta_t_days(jd);
  ln_nutation nutation{};
  ln_get_nutation(jde, &nutation);
  const SunNow sun = sun_now(jde, nutation);
  return seen_from(place, sun.place, jd, sun.equation_deg, true);
}

MoonFace Ephemeris::moon(Instant instant) const {
  const double place = days_of(instant);
  const std::array<double, 3> s = vector_of(Body::Sun, place), m = vector_of(Body::Moon, place);
  const double ds = length(s), dm = length(m);
  const double cos_elongation = (s[0] * m[0] + s[1] * m[1] + s[2] * m[2]) / (ds * dm);
  const double elongation = std::acos(std::clamp(cos_elongation, -1.0, 1.0));
  MoonFace face;
  const double phase = std::atan2(ds * std::sin(elongation), dm - ds * std::cos(elongation));
  face.phase_angle_deg = phase / kRad;
  face.lit = (1 + std::cos(phase)) / 2;
  const Node& n = nodes_[static_cast<size_t>(place)];
  face.waxing = std::sin((n.longitude_moon - n.longitude_sun) * kRad) > 0;
  face.distance_km = dm;
  face.width_deg = 2 * std::asin(kMoonRadius_km / dm) / kRad;
  return face;
}

}  // namespace askcount::sky
