// SPDX-License-Identifier: GPL-3.0-or-later
// Why a slot has the value it has: the relation with this take's numbers, and its source.
#pragma once

#include <string>

#include "plan/solver.h"

namespace askcount::plan {

/// One or two sentences for a slot of a solution, such as "Frames = clip × fps, rounded up: 10 s × 25 = 250."
/// Says what to give where the slot is open.
std::string why_words(Slot slot, const Solution& solution);

}  // namespace askcount::plan
