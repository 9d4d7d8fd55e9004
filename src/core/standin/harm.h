// What faults and automatic modes do to a picture before it is developed.
#pragma once

#include "image/pixels.h"
#include "standin/fault.h"

namespace askcount::standin {

/// Shifts, blurs, hazes and tints what was seen, in linear light.
void apply_harm(const FrameHarm& harm, image::Linear32& seen);

}  // namespace askcount::standin
