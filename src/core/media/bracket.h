// SPDX-License-Identifier: GPL-3.0-or-later
// The exposures of one shot made into one picture.
#pragma once

#include <vector>

#include "image/pixels.h"
#include "media/frame.h"

namespace askcount::media {

/// One exposure of a bracket: upright, and how much more light it had than the one that leads, in stops.
struct BracketPart {
  image::Linear32 picture;
  double stops = 0;
};

/// Merged: each place's light from all exposures that show it, by their noise (a longer exposure counts for
/// more) and not where they clip or are black; in units of the leading one, all above 0.8 bent below 1.
/// Fused: each part from the exposure that shows it best (Mertens, Kautz and Van Reeth, "Exposure fusion",
/// 2007).
///
/// The pictures are of one size, at least two. They are shifted onto the leading one (Ward's median threshold
/// bitmaps), their stops are taken from the pictures where those tell, and where something moved the leading
/// one alone is shown, so that nothing ghosts. Safe from several threads.
image::Linear32 blended(std::vector<BracketPart> parts, size_t lead, Blend blend);

}  // namespace askcount::media
