// SPDX-License-Identifier: GPL-3.0-or-later
// Whether a take goes into the night, and what that asks for.
#pragma once

#include "take/take.h"

namespace askcount::forecast {

/// How long it is shot without a night between: all of it, or its first day. Throws BadInput where the wishes
/// are too few.
Seconds run_s(const take::Take& take);

/// Whether the sun is more than 6° down while it is shot (at most for a day from the start); false where that
/// is not known.
bool is_night(const take::Take& take);

/// Whether a lens heater belongs on it: the air's water was said, or it is a night.
bool needs_heater(const take::Take& take);

/// Whether a heater draws power: one comes along, or the kit has one and the take needs it.
bool heater_runs(const take::Take& take);

}  // namespace askcount::forecast
