// SPDX-License-Identifier: GPL-3.0-or-later
// The light along a take: modelled from the sky, anchored to a meter, or as it was really read.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/instant.h"
#include "base/units.h"
#include "sky/night_sky.h"

namespace askcount::ramp {

/// What a meter said at a moment, in EV at ISO 100.
struct Reading {
  Instant at;
  double ev = 0;
  bool operator==(const Reading&) const = default;
};

/// Where the light of a take comes from.
struct LightSource {
  sky::Cover cover = sky::Cover::Clear;
  double town_lux = 0;
  double sky_mag =
      sky::kNaturalGlow_mag;  ///< how dark the place's zenith is, in magnitudes a square second of arc
  sky::Shows shows = sky::Shows::Ground;  ///< what the frame mostly shows, where not metered
  std::optional<Reading> anchor;          ///< the person's own meter: the model is moved to pass through it
  std::vector<Reading>
      readings;  ///< a curve of real readings, in order of time: replaces the model between them
  bool operator==(const LightSource&) const = default;
};

/// EV at ISO 100 of the scene at `frames` moments `interval_s` apart. The model is sky::scene_luminance(), by
/// night of the sky at `look`; before the first and after the last reading it goes on from there. Throws
/// BadInput for more than 200,000 frames.
std::vector<double> light_along(const LightSource& source, const sky::Place& place, Instant start,
                                Seconds interval_s, long long frames, const sky::Direction& look = {45, 0});

/// The same at any moments, in order. Between the moments that the model is asked for a line is good to 0.02
/// stops. Throws BadInput also where they span more than a year.
std::vector<double> light_at(const LightSource& source, const sky::Place& place,
                             const std::vector<Instant>& moments, const sky::Direction& look = {45, 0});

/// The EV an exposure fits: log2(f-number² ÷ shutter) − log2(ISO ÷ 100).
double ev_of_exposure(Seconds shutter_s, double f_number, double iso);

/// Readings as CSV ("time,ev100" and a line each, ISO times) and back; a time without an offset is by the
/// wall of `zone`. Lines that start with # and a heading are passed over. readings_of_csv throws BadInput
/// naming `name` and the line.
std::string csv_of(const std::vector<Reading>& readings, const std::string& zone);
std::vector<Reading> readings_of_csv(std::string_view text, const std::string& zone, const std::string& name);

}  // namespace askcount::ramp
