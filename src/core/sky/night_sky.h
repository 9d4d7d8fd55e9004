// SPDX-License-Identifier: GPL-3.0-or-later
// How bright the night sky is: its natural glow, the place's own darkness, moonlight, and twilight joined to
// it.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "sky/ambient.h"

namespace askcount::sky {

/// A moonless sky far from every lamp, in magnitudes a square second of arc at the zenith: 1.7 × 10⁻⁴ cd/m².
inline constexpr double kNaturalGlow_mag = 22.0;

/// Luminance in cd/m² of a sky of this many magnitudes a square second of arc, and back. Source: Krisciunas
/// and Schaefer (1991), equations 1 and 3: 34.08 × e^(20.7233 − 0.92104 V) nanolamberts.
double luminance_of_mag(double mag);
double mag_of_luminance(double cd_m2);

/// How dark a place is by night, in a plain word; the zenith's magnitude is what such places usually measure.
struct PlaceDarkness {
  const char* word;
  double mag;
  const char* means;  ///< what is seen there
};
/// "remote", "country", "village", "suburb", "town", "city", darkest first.
const std::vector<PlaceDarkness>& place_darknesses();
/// The magnitude for a word, or for a number of magnitudes a square second of arc from 15 to 23. Throws
/// BadInput.
double parse_darkness(std::string_view text);
/// "country, 21.5 mag" for the word nearest to a magnitude.
std::string darkness_words(double mag);

/// The glow of a moonless sky at an altitude: brighter towards the horizon, through more air. In cd/m².
/// Source: Krisciunas and Schaefer (1991), equation 2, with 0.172 magnitudes an air mass.
double glow_luminance(double zenith_mag, double altitude_deg);

/// What the moon adds to the sky's luminance at `altitude_deg`, `separation_deg` away from it; 0 while it is
/// down, and growing with its height. Phase angle 0 at full moon. In cd/m². Source: Krisciunas and Schaefer
/// (1991), equations 15, 20 and 21; below 10° the moon's light through the air mass of Kasten and Young
/// (1989).
double moonlit_luminance(double moon_altitude_deg, double phase_angle_deg, double separation_deg,
                         double altitude_deg);

/// What a frame mostly shows by day, and how much brighter than level ground that is, in stops: a lit sky
/// two, half of it one, the ground none, what lies away from the sun half a stop darker. What photographers'
/// own readings differ by.
enum class Shows { Ground, Half, LitSky, AwayFromSun };
const char* shows_word(Shows shows);  ///< "ground", "half sky", "lit sky", "away from the sun"
double shows_stops(Shows shows);

/// What the camera sees.
struct NightView {
  double zenith_mag = kNaturalGlow_mag;
  Direction look{45, 0};  ///< where it looks
  Shows shows = Shows::Ground;
};

/// Mean luminance of a scene in cd/m²: by day that of a ground lit by sun and lamps (the meter's grey), by
/// night that of the sky the camera looks at; in twilight both together.
double scene_luminance(const Ephemeris& sky, Instant at, const Place& place, Cover cover, double town_lux,
                       const NightView& night);

/// Land and sky by night, each as a meter of its own would say it: the land by the light that falls on it
/// (moon and stars), the sky by its luminance where the camera looks. EV at ISO 100.
struct LandAndSky {
  double land_ev = 0, sky_ev = 0;
};
LandAndSky land_and_sky(const Ephemeris& sky, Instant at, const Place& place, Cover cover,
                        const NightView& night);

/// EV at ISO 100 of a luminance: log2(L × 100 ÷ 12.5). Source: reflected-light meter, K = 12.5 (ISO 2720).
double ev100_of_luminance(double cd_m2);

/// How fast it changes, in stops a minute, over a minute around `at`; falling light is below zero.
double stops_per_minute(const Ephemeris& sky, Instant at, const Place& place, Cover cover, double town_lux,
                        const NightView& night);

}  // namespace askcount::sky
