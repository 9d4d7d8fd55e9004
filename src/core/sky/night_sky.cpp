// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/night_sky.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "sky/angles.h"

namespace askcount::sky {
namespace {

constexpr double kNanolambert_cd = 1e-5 / 3.14159265358979;
constexpr double kExtinction = 0.172;   // magnitudes an air mass, in yellow-green light
constexpr double kLowest_deg = 3;       // below that the formulas were not measured
constexpr double kGroundPerLux = 0.05;  // the grey a meter takes for the ground: 12.5 ÷ 100 ÷ 2.5

/// Air masses at an altitude, for the scattering layer: equation 3 of the source.
double air(double altitude_deg) {
  const double s = std::sin((90 - std::clamp(altitude_deg, kLowest_deg, 90.0)) * kRad);
  return 1 / std::sqrt(1 - 0.96 * s * s);
}

double separation_deg(const Direction& a, const Direction& b) {
  const double c = std::sin(a.altitude_deg * kRad) * std::sin(b.altitude_deg * kRad) +
                   std::cos(a.altitude_deg * kRad) * std::cos(b.altitude_deg * kRad) *
                       std::cos((a.azimuth_deg - b.azimuth_deg) * kRad);
  return std::acos(std::clamp(c, -1.0, 1.0)) / kRad;
}

/// What the air leaves of the moon's light. Below 10° the model's own air mass ends at 5, as if the moon rose
/// half bright: there it falls off as the true one does (Kasten and Young 1989).
double moonlight_left(double altitude_deg) {
  constexpr double kLow_deg = 10;
  const auto left = [](double mass) { return std::pow(10.0, -0.4 * kExtinction * mass); };
  if (altitude_deg >= kLow_deg) return left(air(altitude_deg));
  const auto mass = [](double h) {
    return 1 / (std::sin(h * kRad) + 0.50572 * std::pow(h + 6.07995, -1.6364));
  };
  return left(air(kLow_deg)) * left(mass(std::max(0.0, altitude_deg))) / left(mass(kLow_deg));
}

}  // namespace

const char* shows_word(Shows shows) {
  static constexpr const char* words[] = {"ground", "half sky", "lit sky", "away from the sun"};
  return words[static_cast<int>(shows)];
}

double shows_stops(Shows shows) {
  static constexpr double stops[] = {0, 1, 2, -0.5};
  return stops[static_cast<int>(shows)];
}

double luminance_of_mag(double mag) {
  return 34.08 * std::exp(20.7233 - 0.92104 * mag) * kNanolambert_cd;
}

double mag_of_luminance(double cd_m2) {
  return (20.7233 - std::log(std::max(cd_m2, 1e-12) / kNanolambert_cd / 34.08)) / 0.92104;
}

const std::vector<PlaceDarkness>& place_darknesses() {
  static const std::vector<PlaceDarkness> list = {
      {to_say("remote"), 22.0, to_say("no lamp in sight; the milky way casts shadows")},
      {to_say("country"), 21.5, to_say("a glow on the horizon, the milky way with all its structure")},
      {to_say("village"), 20.8, to_say("domes of light over the towns, the milky way still clear overhead")},
      {to_say("suburb"), 19.5, to_say("the milky way only overhead, and pale")},
      {to_say("town"), 18.7, to_say("grey sky, no milky way")},
      {to_say("city"), 17.5, to_say("bright sky, a few dozen stars")}};
  return list;
}

double parse_darkness(std::string_view text) {
  for (const PlaceDarkness& d : place_darknesses())
    for (const std::string& word : {std::string(d.word), say(d.word)})
      if (text.substr(0, word.size()) == word) return d.mag;
  std::string_view rest = text;
  const auto mag = take_decimal(rest);
  if (mag && *mag >= 15 && *mag <= 23) return *mag;
  throw bad_input(
      say("\"{}\" does not say how dark a place is.", text),
      say("Write remote, country, village, suburb, town or city, or magnitudes a square second of arc "
          "from 15 to 23."));
}

std::string darkness_words(double mag) {
  const auto& list = place_darknesses();
  const auto nearest =
      std::min_element(list.begin(), list.end(), [mag](const PlaceDarkness& a, const PlaceDarkness& b) {
        return std::abs(a.mag - mag) < std::abs(b.mag - mag);
      });
  return say("{}, {} mag", say(nearest->word), format_number(mag, 1));
}

double glow_luminance(double zenith_mag, double altitude_deg) {
  const double x = air(altitude_deg);
  return luminance_of_mag(zenith_mag) * x * std::pow(10.0, -0.4 * kExtinction * (x - 1));
}

double moonlit_luminance(double moon_altitude_deg, double phase_angle_deg, double separation_deg,
                         double altitude_deg) {
  if (moon_altitude_deg < 0) return 0;
  const double a = std::clamp(std::abs(phase_angle_deg), 0.0, 180.0);
  const double moon = std::pow(10.0, -0.4 * (3.84 + 0.026 * a + 4e-9 * a * a * a * a));
  const double rho = std::clamp(separation_deg, 1.0, 180.0), c = std::cos(rho * kRad);
  const double rayleigh = std::pow(10.0, 5.36) * (1.06 + c * c);
  const double haze = rho < 10 ? 6.2e7 / (rho * rho) : std::pow(10.0, 6.15 - rho / 40);
  const double to_moon = moonlight_left(moon_altitude_deg),
               to_sky = 1 - std::pow(10.0, -0.4 * kExtinction * air(altitude_deg));
  return (rayleigh + haze) * moon * to_moon * to_sky * kNanolambert_cd;
}

double scene_luminance(const Ephemeris& sky, Instant at, const Place& place, Cover cover, double town_lux,
                       const NightView& night) {
  const double divisor = cover_divisor(cover);
  const double sun = daylight_lux(sky.at(Body::Sun, at, place).altitude_deg) - kStarlight_lux;
  const Direction moon = sky.at(Body::Moon, at, place);
  double seen = glow_luminance(night.zenith_mag, night.look.altitude_deg);
  const double day = std::max(0.0, sun) / divisor;
  const double ground = day * std::exp2(shows_stops(night.shows)) + town_lux * lamps_lit(day);
  if (moon.altitude_deg > 0) {
    const MoonFace face = sky.moon(at);
    seen += moonlit_luminance(moon.altitude_deg, face.phase_angle_deg, separation_deg(moon, night.look),
                              night.look.altitude_deg) /
            divisor;
  }
  return ground * kGroundPerLux + seen;
}

LandAndSky land_and_sky(const Ephemeris& sky, Instant at, const Place& place, Cover cover,
                        const NightView& night) {
  return {ev100(ambient_lux(sky, at, place, cover, 0)),
          ev100_of_luminance(scene_luminance(sky, at, place, cover, 0, night))};
}

double ev100_of_luminance(double cd_m2) {
  return std::log2(std::max(cd_m2, 1e-9) * 8);
}

double stops_per_minute(const Ephemeris& sky, Instant at, const Place& place, Cover cover, double town_lux,
                        const NightView& night) {
  const auto half = std::chrono::seconds(30);
  return ev100_of_luminance(scene_luminance(sky, at + half, place, cover, town_lux, night)) -
         ev100_of_luminance(scene_luminance(sky, at - half, place, cover, town_lux, night));
}

}  // namespace askcount::sky
