// SPDX-License-Identifier: GPL-3.0-or-later
// Specks of dust before the sensor: found, because they stand still while everything else moves, and healed.
#pragma once

#include <vector>

#include "base/progress.h"
#include "image/pixels.h"
#include "media/frame_source.h"
#include "optics/wish.h"

namespace askcount::optics {

/// Spots that are in all frames: a soft, round, lonely place that is always as much darker than its
/// surroundings, in stops, whatever lies behind it. About 24 frames over the take are looked at; where it has
/// fewer than 5 that can be read, nothing is found. The darkest first, at most 60. What stands in front of
/// the camera and is just as soft, round and lonely is found too: people look at the list. Throws Cancelled
/// when stopped.
std::vector<Spot> find_spots(const media::Frames& frames, const media::FrameSource& source,
                             const Work& work = {});

/// Fills every spot with what its edge says lies inside (the harmonic function, by Poisson's integral), in
/// place. Places outside the picture do nothing.
void heal(image::Picture& picture, const std::vector<Spot>& spots);

}  // namespace askcount::optics
