// SPDX-License-Identifier: GPL-3.0-or-later
// Places of a sensor that are lit in the dark.
#pragma once

#include <vector>

#include "base/progress.h"
#include "media/frame.h"
#include "media/sensor_care.h"

namespace askcount::optics {

/// Whether a frame is read from a raw file: with a picture of its own beside it, that is read.
bool read_from_raw(const media::Frame& frame);

/// Places of the mosaic that are far brighter than all around them in nearly all of the frames with the
/// longest shutters (about 7 of those within a stop of the longest are looked at): light from a lens is never
/// as small as one of them. Only frames that are raw, of one size. Rows from the top; the 20,000 brightest at
/// most. Throws Cancelled when stopped; frames that cannot be read are passed over.
std::vector<media::SensorPlace> find_hot_pixels(const media::Frames& frames, const Work& work = {});

}  // namespace askcount::optics
