// SPDX-License-Identifier: GPL-3.0-or-later
// The whole ramp of a take: its clicks with their consequences, and the methods compared on the same light.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/units.h"
#include "ramp/follow.h"

namespace askcount::ramp {

/// So many stops over the meter a frame burns out, and so many under it (below zero) it drowns: nothing is
/// seen of it any more.
inline constexpr double kClips_stops = 3, kDrowns_stops = -5;

/// How the exposure follows the light.
enum class Method { Hand, Fixed, AperturePriority };
const char* method_word(Method method);  ///< "hand", "fixed", "aperture priority"

/// A click with where it leads.
struct RampStep {
  Click click;
  Exposure before, after;
  double meter_after = 0;  ///< stops over the meter right after it
  bool late = false;       ///< the meter had left the band by then
  bool rushed = false;     ///< nearer to the one before than the rule's usual distance
};

/// Frames that are outside the band although the rule did what it could.
struct Outrun {
  long long from = 0, to = 0;  ///< frames, both included
  double worst_stops = 0;      ///< beyond the band; below zero is too dark
};

struct Ramp {
  std::vector<double> ev;       ///< of the scene, a frame each
  std::vector<Exposure> chain;  ///< a frame each
  std::vector<double> meter;    ///< a frame each
  std::vector<RampStep> steps;
  std::optional<long long>
      filters_off;              ///< before this frame the filters come off and the dials are set anew
  std::vector<long long> days;  ///< before these frames another day begins, and the dials are set anew
  std::vector<Outrun> outrun;
  bool feasible = true;              ///< the meter never leaves the band
  double worst_stops_per_frame = 0;  ///< the fastest change of the light, by amount
  double worst_stops_per_minute = 0;
  Seconds longest_s = 0;  ///< longest exposure
};

/// The ramp by hand over a scene's EVs: by the rule, or, where `moved` is not empty, by exactly those clicks.
/// The frames in `days` begin another day.
Ramp ramp_by_hand(const std::vector<double>& ev, const RampRule& rule, Seconds interval_s,
                  const std::vector<Click>& moved = {}, const std::vector<long long>& days = {});

/// One exposure for all of it, through filters of `filter_stops`: nothing is turned.
Ramp ramp_standing(const std::vector<double>& ev, const Exposure& exposure, Seconds interval_s,
                   double filter_stops);

/// Aperture priority at the rule's start aperture and lowest ISO: the shutter in thirds, whatever that takes
/// up to `longest_s`. Its changes are the camera's own: there are no steps. Feasible where no shutter leaves
/// `room_s`.
Ramp ramp_automatic(const std::vector<double>& ev, const RampRule& rule, Seconds interval_s, Seconds room_s,
                    Seconds longest_s);

/// What the other methods make of the same light.
struct MethodOutcome {
  Method method = Method::Hand;
  std::string title;
  std::string text;  ///< what it gives, what it costs, when it is wanted
  bool works = true;
  long long first_clipped = -1;     ///< first frame more than 3 stops over; −1 for none
  long long first_drowned = -1;     ///< first frame more than 5 stops under
  long long shutter_outgrows = -1;  ///< first frame whose shutter leaves no room in the interval
  double flicker_stops = 0;         ///< to be expected between neighbouring frames (RMS)
  Seconds longest_s = 0;
};

/// Fixed at `standing`, through filters of `filter_stops`; aperture priority at the rule's start aperture,
/// ISO up to its highest, in thirds; and the ramp by hand. `room_s` is how long a shutter may be in the
/// interval.
std::vector<MethodOutcome> compare(const Ramp& hand, const Exposure& standing, double filter_stops,
                                   const RampRule& rule, Seconds interval_s, Seconds room_s);

/// What a ramp is held to.
struct JudgedBy {
  RampRule rule;
  Seconds interval_s = 0;
  Seconds room_s = 0;                           ///< how long a shutter may be beside writing
  Seconds turning_s = 0;                        ///< what the hand wants of it
  bool moved = false;                           ///< clicks were moved by the person
  std::function<std::string(long long)> clock;  ///< words for a frame
};

/// Whether the rule follows the light; where not, from when to when and what would help, tried out: fewer
/// frames apart, a longer interval, a wider start.
Findings judge(const Ramp& ramp, const JudgedBy& by);

/// "shutter 2 to 2.5 s", in marks as dials have them.
std::string step_words(const RampStep& step);
/// "1/60 s", "f/5.6", "ISO 200".
std::string dial_words(Dial dial, const Exposure& exposure);
const char* dial_word(Dial dial);  ///< "shutter", "aperture", "ISO"

}  // namespace askcount::ramp
