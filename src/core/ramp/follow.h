// SPDX-License-Identifier: GPL-3.0-or-later
// The chain of clicks that follows the light by hand.
#pragma once

#include <array>
#include <optional>
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

enum class Dial { Shutter, Aperture, Iso };

/// What the hands may do.
struct RampRule {
  double longest_shutter_s = 2.5;
  double shortest_shutter_s = 1.0 / 4096;
  double widest_f = 2.8;
  double start_f = 8;
  double lowest_iso = 100;
  double highest_iso = 6400;
  double low_stops = -1;  ///< the meter is kept between low and high; 0 is the meter's own exposure
  double high_stops = 0;
  int frames_apart = 6;       ///< at least this many frames from one click to the next
  int frames_apart_late = 3;  ///< the same once the meter has left the band
  double night_stops = 2;     ///< how far under the day's band a night may look; see band_at()
  double filter_stops = 0;    ///< of filters that are on at the start; they come off in one go
  std::optional<Exposure> begin =
      std::nullopt;  ///< where the dials stand before the first shot, in thirds; from there they are turned
                     ///< no further than the band asks. Nothing where they are free
  /// Which dial gives light first, second and third; light is taken away in the opposite order.
  std::array<Dial, 3> order = {Dial::Shutter, Dial::Aperture, Dial::Iso};
  bool operator==(const RampRule&) const = default;
};

/// One third of a stop on one dial, before frame `frame` (from 0) is shot.
struct Click {
  long long frame = 0;
  Dial dial = Dial::Shutter;
  bool brighter = true;
  bool operator==(const Click&) const = default;
};

/// The exposure after a click; nothing where the dial is at the rule's end.
std::optional<Exposure> clicked(const Exposure& exposure, Dial dial, bool brighter, const RampRule& rule);

/// The exposure a take starts with: as bright as the band allows, set freely within the rule, or where the
/// rule has a beginning the one nearest to it that is in the band.
/// `light_stops` as below; through filters of `filter_stops`.
Exposure start_exposure(double light_stops, const RampRule& rule, double filter_stops = 0);

/// The frame (from 0) before which the rule's filters come off: the first that the longest shutter does not
/// reach through them at the first aperture and lowest ISO. Nothing without filters, and where they stay on.
std::optional<long long> filters_off(const std::vector<double>& light_stops, const RampRule& rule);

/// How a rule follows a light.
struct Following {
  std::vector<Exposure> chain;  ///< a frame each
  std::vector<Click> clicks;    ///< in order
  std::optional<long long>
      filters_off;  ///< before this frame, where the dials are then set anew to its exposure
};

/// Follows the light from start_exposure(): by clicks_for(), or by exactly `moved` where it is not empty.
/// Through filters until they come off; from there on anew, and anew at each of the frames in `days`, which
/// begin another day (filters then stay on throughout). Empty for no light.
Following follow(const std::vector<double>& light_stops, const RampRule& rule,
                 const std::vector<Click>& moved = {}, const std::vector<long long>& days = {});

/// One exposure a frame. `light_stops[n]` is log2 of the scene's mean luminance in cd/m² at frame n. Clicks
/// of a third, one at a time, in the rule's order. Frames the rule cannot follow keep the nearest it can.
std::vector<Exposure> follow_light(const std::vector<double>& light_stops, const RampRule& rule);

/// The clicks of the same, from `start` on; the last click was `since` frames ago.
std::vector<Click> clicks_for(const std::vector<double>& light_stops, const RampRule& rule,
                              const Exposure& start, double filter_stops = 0, int since = 1000);

/// One exposure a frame from a start and its clicks; clicks past a dial's end are left out.
std::vector<Exposure> chain_of(const Exposure& start, const std::vector<Click>& clicks, long long frames,
                               const RampRule& rule);

/// Where the meter is kept at a light: the rule's band by day, `night_stops` lower by night (from EV −6
/// down), eased between EV 1 and EV −6, so that night stays night.
struct Band {
  double low_stops, high_stops;
};
Band band_at(const RampRule& rule, double light_stops);

/// The clicks that lead along a chain, each before the frame it is seen at; several before one frame where a
/// dial jumps.
std::vector<Click> clicks_along(const std::vector<Exposure>& chain);

/// How far a frame is over (positive) or under the meter, in stops: a reflected-light meter with K = 12.5
/// (ISO 2720).
double meter_stops(double light_stops, const Exposure& exposure);

/// Log2 of mean luminance for an EV at ISO 100, by the same meter.
double light_stops_of_ev(double ev100);

}  // namespace askcount::ramp
