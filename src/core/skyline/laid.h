// SPDX-License-Identifier: GPL-3.0-or-later
// A picture bent so that it lies under a panorama.
#pragma once

#include <cstdint>
#include <vector>

#include "sky/panorama.h"
#include "skyline/photograph.h"

namespace askcount::skyline {

/// Pixels of a panorama: red, green, blue, and how much the picture covers (0 or 255).
struct Laid {
  image::Size size;
  std::vector<std::uint8_t> rgba;
};

/// What a picture shows of each direction of a panorama, its nearest pixel. Takes some milliseconds for a
/// panorama of a window's width.
Laid laid_under(const image::Coded8& picture, const View& view, const sky::Panorama& panorama);

}  // namespace askcount::skyline
