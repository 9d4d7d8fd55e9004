// SPDX-License-Identifier: GPL-3.0-or-later
// What will be in the film and what will not: known before anybody goes out.
#pragma once

#include "ramp/ramp.h"
#include "take/take.h"

namespace askcount::advice {

/// What happens while a take is shot that its film shows: the subject enters and leaves the frame, the light
/// is lost, the moon rises or sets by night, the town's lamps change. Each with its moment, its
/// frame, the share of the film that is left, and where something helps the one press that moves start, aim
/// or end. `ramp` is ramp_of(take). Empty where place or time are not said, or the wishes are too few.
Findings in_the_film(const take::Take& take, const ramp::Ramp& ramp);

}  // namespace askcount::advice
