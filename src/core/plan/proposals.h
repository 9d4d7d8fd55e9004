// SPDX-License-Identifier: GPL-3.0-or-later
// What is taken for slots that nobody has said anything of yet, so that a plan is whole from its first word.
#pragma once

#include <string_view>
#include <vector>

#include "base/units.h"
#include "plan/solver.h"

namespace askcount::plan {

/// What proposals depend on.
struct ProposalGround {
  std::string_view subject;    ///< empty for none
  Seconds shortest_gap_s = 1;  ///< that the camera needs between two exposures
};

/// Values for the slots that `open` lacks, for solve(): 25 fps, the interval usual for the subject and a clip
/// of 10 s. Where the subject's way across the frame is known the interval is the one that takes it across
/// the screen in 8 s, calm by the panning rule (7 s at 24 fps); where nothing is known of how fast it moves,
/// it is 5 s. Intervals are whole seconds, which any timer can be told, and leave the shutter its time.
std::vector<Wish> proposals_for(const Solution& open, const ShotShape& shape, const ProposalGround& ground);

}  // namespace askcount::plan
