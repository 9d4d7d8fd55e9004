// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/spread.h"

#include <algorithm>

namespace askcount::image {

float Spread::most() const {
  float most = 0;
  for (const auto& colour : share) most = std::max(most, *std::max_element(colour.begin(), colour.end()));
  return most;
}

Spread spread_of(const Coded8& picture) {
  Spread s;
  const size_t pixels = picture.rgb.size() / 3;
  if (pixels == 0) return s;
  std::array<std::array<size_t, 256>, 3> counts{};
  for (size_t i = 0; i < pixels * 3; ++i) ++counts[i % 3][picture.rgb[i]];
  const auto part = [&](size_t n) { return static_cast<float>(n) / static_cast<float>(pixels); };
  for (size_t c = 0; c < 3; ++c) {
    for (size_t code = 0; code < 256; ++code) s.share[c][code * Spread::kBins / 256] += part(counts[c][code]);
    s.black[c] = part(counts[c][0]);
    s.white[c] = part(counts[c][254] + counts[c][255]);
  }
  return s;
}

}  // namespace askcount::image
