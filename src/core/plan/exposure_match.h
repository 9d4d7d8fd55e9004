// SPDX-License-Identifier: GPL-3.0-or-later
// From a metered exposure to the wanted shutter: filters, aperture, ISO.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/finding.h"
#include "plan/kit.h"

namespace askcount::plan {

/// What the meter says.
struct Metered {
  Seconds shutter_s = 1.0 / 125;
  double f_number = 8;
  double iso = 100;
  bool operator==(const Metered&) const = default;
};

/// Reads "1/125,f8,iso100" (in any order, "f/8" too). Throws BadInput.
Metered parse_metered(std::string_view text);
/// "1/125 s at f/8, ISO 100".
std::string metered_words(const Metered& metered);

/// How the wanted shutter is reached.
struct ExposureMatch {
  double stops = 0;                  ///< to lose (positive) or gain: log2(wanted ÷ metered)
  std::vector<std::string> filters;  ///< names of those to stack, strongest first
  double filter_stops = 0;
  Metered setting;  ///< what the dials then stand on, in thirds of a stop
  double missing_stops =
      0;  ///< still too bright (positive) or too dark; 0 where it is reached to a sixth of a stop
  Seconds nearest_shutter_s = 0;  ///< the shutter that works instead where it is not
};

/// ISO goes to its lowest first, then the fewest filters (at most two stacked, three where nothing else
/// helps) that leave the least to the aperture, then the aperture. Pure; under 0.1 ms for a dozen filters.
ExposureMatch match_exposure(const Metered& metered, Seconds wanted_s, const Kit& kit);

/// What to know about it: which filters, what they spoil, what helps where nothing reaches.
Findings judge(const ExposureMatch& match, Seconds wanted_s, const Kit& kit);

/// The same brightness at the highest ISO with a short shutter: to frame and focus by.
Metered test_exposure(const Metered& setting, const Kit& kit);

/// The f-number from which diffraction blurs more than two pixels: Airy disc 2.44 × 0.55 µm × N.
double diffraction_f(double pixel_um);

/// How far a star at `declination_deg` drifts over `shutter_s`, in pixels: 15.041″ a second ×
/// cos(declination).
double star_drift_px(Seconds shutter_s, double focal_mm, double pixel_um, double declination_deg);

/// The longest shutters three methods allow for points of stars.
struct StarRules {
  Seconds by_500 = 0;    ///< 500 ÷ focal length (full-frame equivalent)
  Seconds by_600 = 0;    ///< 600 ÷ focal length
  Seconds by_pixel = 0;  ///< (35 × f-number + 30 × pixel pitch in µm) ÷ focal length
};
StarRules star_rules(const Body& body, const Lens& lens, double f_number);

/// Depth of field by the thin lens; distances in metres from the lens, far is infinite beyond the hyperfocal.
struct Depth {
  double hyperfocal_m = 0;
  double near_m = 0;
  double far_m = 0;  ///< infinity where it does not end
};
/// `blur_um` is the largest blur that still looks sharp: two pixels by default (0).
Depth depth_of_field(const Body& body, double focal_mm, double f_number, double focus_m, double blur_um = 0);

}  // namespace askcount::plan
