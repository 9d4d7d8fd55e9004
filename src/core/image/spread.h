// SPDX-License-Identifier: GPL-3.0-or-later
// How the tones of a picture are spread.
#pragma once

#include <array>
#include <cstddef>

#include "image/pixels.h"

namespace askcount::image {

/// Shares of a picture's pixels by code, for each colour, and what clips.
struct Spread {
  static constexpr size_t kBins = 64;
  std::array<std::array<float, kBins>, 3> share{};  ///< red, green, blue; each adds up to 1
  std::array<float, 3> black{}, white{};            ///< shares at code 0, and at 254 and 255

  float most() const;
};

/// Of all pixels; empty for an empty picture.
Spread spread_of(const Coded8& picture);

}  // namespace askcount::image
