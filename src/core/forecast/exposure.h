// SPDX-License-Identifier: GPL-3.0-or-later
// The one exposure plan of a take: either the shutter stands, or it follows the light. Every sentence, card,
// sheet and the stand-in read it from here.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "ramp/ramp.h"
#include "take/take.h"

namespace askcount::forecast {

/// What the camera's dials do over a take.
struct ExposurePlan {
  bool follows = false;  ///< the light; otherwise one exposure stands for all of it
  bool dials_known =
      false;             ///< aperture and ISO are worked out; without a meter or a light only the shutter is
  bool keeps_up = true;  ///< one that follows never leaves its band
  bool estimated = false;  ///< from the model of the light alone: not metered
  ramp::Exposure first, last;
  Seconds shortest_s = 0, longest_s = 0;  ///< of all shutters
  double shortest_trail = 0, longest_trail = 0;
  Seconds gap_s = 0;                     ///< the least there is: beside the longest shutter
  Seconds field_s = 0;                   ///< first opening to last closing, with the longest shutter
  std::vector<std::string> filters;      ///< on at the first shot, strongest first
  double filter_stops = 0;               ///< of all of them
  std::optional<long long> filters_off;  ///< before this shot (from 0) they come off; nothing where they stay
  std::optional<plan::ExposureMatch> offered;  ///< see Standing
  plan::ExposureMatch
      match;  ///< how a standing shutter is reached; its own words where it is not, see plan::judge
};

/// The exposures of a take by its method. One whose light changes by less than a stop, is lit by its own
/// lamp, is not known or is too long to be followed stands, whatever the method. Throws BadInput where the
/// wishes are too few.
ExposurePlan exposure_of(const take::Take& take);
/// The same, for the ramp that ramp_of() gave.
ExposurePlan exposure_of(const take::Take& take, const ramp::Ramp& ramp);

/// "1/125 s to 4 s", or where it stands "4 s".
std::string shutter_words(const ExposurePlan& plan);
/// "at least 2.3 s", "59.9 s", or what to say where the shutter leaves no gap.
std::string gap_words(const ExposurePlan& plan);
/// "f/8 to f/2.8, ISO 100 to 6,400"; empty where they are not known.
std::string dials_words(const ExposurePlan& plan);
/// "Grey 6 + Grey 3"; empty where there is none.
std::string filters_words(const ExposurePlan& plan);

}  // namespace askcount::forecast
