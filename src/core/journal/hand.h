// SPDX-License-Identifier: GPL-3.0-or-later
// The hand at the dials while a take is shot: where they really stand, and what is still to be turned from
// there.
#pragma once

#include <optional>
#include <vector>

#include "journal/state.h"
#include "ramp/ramp.h"

namespace askcount::journal {

/// How it stands at a frame.
struct Hand {
  ramp::Exposure dials;              ///< as they really are
  bool filters_on = false;           ///< the plan's, not yet taken off
  std::optional<double> meter;       ///< stops at the frame, by the plan's light and what was metered since
  double beyond = 0;                 ///< stops outside the band; below zero is too dark
  std::vector<ramp::RampStep> rest;  ///< clicks still to come, the frames counted from the take's first
  std::optional<long long> filters_off;  ///< before this frame the filters come off
  ramp::Exposure after_filters;          ///< what the dials are set to then
  std::optional<long long>
      new_day;             ///< before this frame another day begins; due where it is no later than now
  ramp::Exposure morning;  ///< what the dials are set to then
};

/// As long as the hand kept to the plan and nothing else was metered, the rest of the plan. Otherwise the
/// rest is worked out anew by the rule: from where the dials stand now, from the newest reading, and from
/// this frame on. A click that was put off is not asked for again for as many frames as two clicks are apart.
/// `plan` has a light (Ramp::ev); `frame` is the one being shot, from 0 (−1 before the first).
Hand hand_at(const ShootState& state, const ramp::Ramp& plan, const ramp::RampRule& rule, long long frame);

/// Where the dials stand, by what was told: from `first` on, every turn and every setting.
ramp::Exposure dials_of(const ShootState& state, const ramp::Exposure& first, const ramp::RampRule& rule);

}  // namespace askcount::journal
