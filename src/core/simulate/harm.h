// SPDX-License-Identifier: GPL-3.0-or-later
// What faults and automatic modes do to a picture before it is developed.
#pragma once

#include "image/pixels.h"
#include "simulate/fault.h"

namespace askcount::simulate {

/// Shifts, blurs, hazes and tints what was seen, in linear light.
void apply_harm(const FrameHarm& harm, image::Linear32& seen);

}  // namespace askcount::simulate
