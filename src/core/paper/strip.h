// SPDX-License-Identifier: GPL-3.0-or-later
// A day's light as a strip of sky: colours, hours and a curve, as PNG.
#pragma once

#include <array>
#include <cstdint>
#include <filesystem>
#include <vector>

#include "base/output.h"

namespace askcount::paper {

/// What stands in a strip, from left to right; each is one a pixel.
struct Strip {
  std::vector<std::array<std::uint8_t, 3>> sky;  ///< sRGB codes
  std::vector<double> curve;                     ///< any unit; fills the height. As many as `sky`
  double from = 0, to = 0;                       ///< marked on top, in pixels
  double hours = 24;                             ///< ticks below, every sixth longer
};

/// Writes it, 240 pixels tall, whole or not at all. Throws Failed naming the file.
void write_strip(const Strip& strip, const std::filesystem::path& file, const Guard& guard = {});

}  // namespace askcount::paper
