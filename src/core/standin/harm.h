// What faults and automatic modes do to a picture before it is developed.
#pragma once

#include "picture/pixels.h"
#include "standin/fault.h"

namespace askcount::standin {

/// Shifts, blurs, hazes and tints what was seen, in linear light.
void apply_harm(const FrameHarm& harm, picture::LinearPicture& seen);

}  // namespace askcount::standin
