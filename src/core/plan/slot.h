// SPDX-License-Identifier: GPL-3.0-or-later
// What stands in the slots of the sentence: read, shown, checked.
#pragma once

#include <string>
#include <string_view>

#include "base/slot.h"

namespace askcount::plan {

using askcount::kAllSlots;
using askcount::kSlots;
using askcount::Slot;
using askcount::slot_name;
using askcount::slot_of_word;
using askcount::slot_word;

/// Reads what a person typed into a slot. Throws BadInput as units.h and frame_rate.h do; Frames takes whole
/// numbers, Trail also "half".
double parse_slot(Slot slot, std::string_view text);

/// A slot's value for the eye, with its unit: "10 s", "25 fps", "250 frames", "half a step".
std::string format_slot(Slot slot, double value);

/// Throws BadInput unless the value can stand in the slot: above zero, finite, below 1e12; Frames whole and
/// at least 1; Fps from 1 to 1000.
void check_slot(Slot slot, double value);

}  // namespace askcount::plan
