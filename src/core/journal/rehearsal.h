// SPDX-License-Identifier: GPL-3.0-or-later
// A dusk rehearsed: the clicks that were made over the clicks the light asked for.
#pragma once

#include <string>
#include <vector>

#include "ramp/follow.h"

namespace askcount::journal {

/// The light of a scene over a take's frames and what a hand does with it.
class Rehearsal {
 public:
  /// `light_stops` as ramp::follow_light. Starts at the exposure the rule would start with.
  Rehearsal(std::vector<double> light_stops, const ramp::RampRule& rule);

  /// Turns a dial by one third before frame `frame`; false where the dial is at its end.
  bool turn(long long frame, ramp::Dial dial, bool brighter);
  /// The dials now.
  const ramp::Exposure& dials() const { return now_; }
  /// The meter at a frame, in stops.
  double meter(long long frame) const;
  long long frames() const { return static_cast<long long>(light_.size()); }

  struct Result {
    std::vector<ramp::Exposure> yours, wanted;  ///< a frame each
    std::vector<double> meter;                  ///< yours
    long long clicks = 0, wanted_clicks = 0;
    long long doubled = 0;  ///< two clicks before the same frame or one taken back within three frames
    long long rushed = 0;   ///< nearer than the rule's late distance to the one before
    long long late = 0;     ///< frames on which the meter was out of the band
    long long highlights_lost = 0;  ///< frames more than half a stop over the band
    double flicker_stops =
        0;          ///< that the steps would leave before levelling: RMS against an 11-frame local quadratic
    int score = 0;  ///< 0 to 100
    std::string better;  ///< one thing to do better
  };
  /// Of the frames up to `upto` (all where it is beyond).
  Result result(long long upto) const;

 private:
  std::vector<double> light_;
  ramp::RampRule rule_;
  ramp::Exposure start_, now_;
  std::vector<ramp::Click> clicks_;
};

}  // namespace askcount::journal
