// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/sensor_rows.h"

#include <algorithm>

#include "image/clones.h"

namespace askcount::media {

namespace {

/// Where one colour is at its white the others tell how far it would have gone on: a highlight is taken for
/// grey.
struct Rebuild {
  explicit Rebuild(const std::array<float, 3>& white)
      : near_r(kNear * white[0]),
        near_g(kNear * white[1]),
        near_b(kNear * white[2]),
        over_r(1 / (white[0] - near_r)),
        over_g(1 / (white[1] - near_g)),
        over_b(1 / (white[2] - near_b)) {}
  static constexpr float kNear = 0.95F;  // of white, from where a colour counts as clipped
  float near_r, near_g, near_b, over_r, over_g, over_b;

  inline void operator()(float r, float g, float b, float* rgb) const {
    const float most = std::max(std::max(r, g), b);
    const float cr = std::min(1.0F, std::max(0.0F, (r - near_r) * over_r));
    const float cg = std::min(1.0F, std::max(0.0F, (g - near_g) * over_g));
    const float cb = std::min(1.0F, std::max(0.0F, (b - near_b) * over_b));
    rgb[0] = r + cr * (most - r);
    rgb[1] = g + cg * (most - g);
    rgb[2] = b + cb * (most - b);
  }
};

}  // namespace

ASKCOUNT_CLONES void half_row(const std::array<MosaicSite, 4>& sites, const std::array<float, 3>& white,
                              float* rgb, int n) {
  const MosaicSite red = sites[0], green = sites[1], other = sites[2], blue = sites[3];
  const float half = green.scale / 2, half_other = other.scale / 2;
  const float red_black = red.black * red.scale, blue_black = blue.black * blue.scale;
  const float green_black = green.black * half + other.black * half_other;
  const Rebuild rebuild(white);
  for (int x = 0; x < n; ++x)
    rebuild(static_cast<float>(red.first[2 * x]) * red.scale - red_black,
            static_cast<float>(green.first[2 * x]) * half +
                static_cast<float>(other.first[2 * x]) * half_other - green_black,
            static_cast<float>(blue.first[2 * x]) * blue.scale - blue_black, rgb + 3 * x);
}

ASKCOUNT_CLONES void whole_row(const std::uint16_t* values, float scale, const std::array<float, 3>& white,
                               float* rgb, int n) {
  const Rebuild rebuild(white);
  for (int x = 0; x < n; ++x)
    rebuild(static_cast<float>(values[3 * x]) * scale, static_cast<float>(values[3 * x + 1]) * scale,
            static_cast<float>(values[3 * x + 2]) * scale, rgb + 3 * x);
}

ASKCOUNT_CLONES void light_row(const float* sensor, const SensorLight& light, float* rgb, int n) {
  const float top = top_of(light);
  const auto m = light.matrix;
  for (int x = 0; x < n; ++x) {
    const float r = sensor[4 * x], g = sensor[4 * x + 1], b = sensor[4 * x + 2];
    for (int c = 0; c < 3; ++c) {
      const auto& row = m[static_cast<size_t>(c)];
      rgb[3 * x + c] = std::min(top, std::max(0.0F, row[0] * r + row[1] * g + row[2] * b));
    }
  }
}

float top_of(const SensorLight& light) {
  return std::max({light.white[0], light.white[1], light.white[2], 1.0F});
}

}  // namespace askcount::media
