// SPDX-License-Identifier: GPL-3.0-or-later
// What stands still over a take and is none of its scene: looked for, and forgotten again.
#pragma once

#include "base/progress.h"
#include "media/frame.h"
#include "optics/wish.h"

namespace askcount::optics {

/// Dust and hot pixels of a take.
struct Found {
  std::vector<Spot> spots;
  std::vector<media::SensorPlace> hot;
};

/// As find_hot_pixels(), then find_spots() without what is hot. Throws as they do.
Found find(const media::Frames& frames, const Work& work = {});

/// Puts it into a wish: it has been looked for.
void put(Wish& wish, Found found);
/// Takes it out again: nothing has been looked for.
void forget(Wish& wish);

}  // namespace askcount::optics
