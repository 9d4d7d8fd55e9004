// SPDX-License-Identifier: GPL-3.0-or-later
// Stepping a slot by its natural unit: a click, a second, a frame.
#pragma once

#include "plan/slot.h"

namespace askcount::plan {

/// The next value up (`steps` positive) or down: shutters by a third of a stop; lengths of time by their last
/// shown unit (half a second below 10 s, a second below a minute, then 10 s, minutes, 10 min); frame rates
/// through the usual ones; frames by one; trails by a twentieth. Always a value check_slot accepts.
double nudged(Slot slot, double value, int steps);

}  // namespace askcount::plan
