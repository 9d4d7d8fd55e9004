// SPDX-License-Identifier: GPL-3.0-or-later
// How alike two frames are, from very small pictures of them: to tell markers and scenes.
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "image/luminance.h"
#include "media/frame.h"

namespace askcount::ingest {

/// What a frame's parts look like beside each other, in stops.
using Layout = std::array<float, image::Luminance::kParts>;

/// From its thumbnail where it has one; nothing where it cannot be read.
std::optional<Layout> layout_of(const media::Frame& frame);

/// Correlation of two layouts: 1 for the same scene in any light, about 0 for others. 0 for blank ones.
double correlation(const Layout& a, const Layout& b);

/// Whether a frame shows something else than those beside it, the nearest first: it is far further from the
/// nearest than they usually are from each other, by how bright it is or by how that is spread over its
/// parts. False where there are fewer than two beside it.
bool is_unlike(const Layout& one, const std::vector<Layout>& beside);

/// Whether there is nothing to see: all parts alike within a tenth of a stop, or black.
bool is_blank(const Layout& layout);

}  // namespace askcount::ingest
