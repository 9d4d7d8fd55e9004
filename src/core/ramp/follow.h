// The chain of clicks that follows the light by hand.
#pragma once

#include <vector>

namespace askcount::ramp {

/// Where the three dials stand, in exact thirds of a stop.
struct Exposure {
  double shutter_s = 1.0 / 128;
  double f_number = 8;
  double iso = 100;
  bool operator==(const Exposure&) const = default;
};

/// log2(shutter × ISO ÷ 100 ÷ f-number²), in stops.
double stops_of(const Exposure& exposure);

/// What the hands may do.
struct RampRule {
  double longest_shutter_s = 2.5;
  double shortest_shutter_s = 1.0 / 4096;
  double widest_f = 2.8;
  double start_f = 8;
  double lowest_iso = 100;
  double highest_iso = 6400;
  double low_stops = -1;   ///< the meter is kept between low and high; 0 is the meter's own exposure
  double high_stops = 0;
  int frames_apart = 6;       ///< at least so many frames from one click to the next
  int frames_apart_late = 3;  ///< the same once the meter has left the band
};

/// One exposure a frame. `light_stops[n]` is log2 of the scene's mean luminance in cd/m² at frame n. Clicks of a third,
/// one at a time: shutter first up to its longest, then aperture, then ISO; back in the opposite order. The start is
/// set freely a third of a stop under the meter. Frames the rule cannot follow keep the nearest it can.
std::vector<Exposure> follow_light(const std::vector<double>& light_stops, const RampRule& rule);

/// How far a frame is over (positive) or under the meter, in stops: a reflected-light meter with K = 12.5 (ISO 2720).
double meter_stops(double light_stops, const Exposure& exposure);

}  // namespace askcount::ramp
