// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/row_loops.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>

#include "image/clones.h"
#include "image/tone.h"

namespace askcount::render {

using Four = float __attribute__((vector_size(16)));

void to_linear(const std::uint8_t* codes, const float* table, float* linear, int n) {
  // Eight codes from one word: the processor gathers more slowly than it loads.
  int i = 0;
  for (; std::endian::native == std::endian::little && i + 8 <= n; i += 8) {
    std::uint64_t word;
    std::memcpy(&word, codes + i, sizeof word);
    for (int k = 0; k < 8; ++k) linear[i + k] = table[(word >> (8 * k)) & 0xFF];
  }
  for (; i < n; ++i) linear[i] = table[codes[i]];
}

namespace {

constexpr Four all_of(float v) {
  return Four{v, v, v, v};
}
inline Four least(Four a, Four b) {
  return a < b ? a : b;
}
inline Four most(Four a, Four b) {
  return a > b ? a : b;
}

/// Values times their gains, held.
inline Four held(Four g, Four v) {
  const Four one = all_of(1), knee = least(all_of(0.8F), 0.85F / g), top = g * knee;
  const Four u = least(one, most(all_of(0), (v - knee) / (one - knee)));
  const Four bend = g * (one - knee) / (one - top);
  const Four over = top + (one - top) * bend * u / (one + (bend - one) * u);
  return v <= knee ? g * v : over;
}

/// gain_row() with `gain(x)` for the colours of each pixel.
template <typename GainOf>
inline void gain_pixels(float* rgb, const GainOf& gain, int n) {
  // Most pixels lie below the knee, where there is nothing to divide: this many at a time are asked first.
  constexpr int kAtOnce = 16;
  std::array<float, static_cast<size_t>(4 * kAtOnce)> raised;
  const Four knee = all_of(0.8F), top = all_of(0.85F);
  for (int from = 0; from < n; from += kAtOnce) {
    const int many = std::min(n - from, kAtOnce);
    float* pixels = rgb + 4 * from;
    Four over = {0, 0, 0, 0};
    for (int x = 0; x < many; ++x) {
      Four v;
      std::memcpy(&v, pixels + 4 * x, sizeof v);
      const Four w = v * gain(from + x), a = v - knee, b = w - top;
      over = most(over, most(a, b));
      std::memcpy(raised.data() + 4 * x, &w, sizeof w);
    }
    if (std::max(std::max(over[0], over[1]), over[2]) > 0) {
      for (int x = 0; x < many; ++x) {
        Four v;
        std::memcpy(&v, pixels + 4 * x, sizeof v);
        const Four w = held(gain(from + x), v);
        std::memcpy(pixels + 4 * x, &w, sizeof w);
      }
    } else {
      std::memcpy(pixels, raised.data(), sizeof(float) * 4 * static_cast<size_t>(many));
    }
  }
}

}  // namespace

ASKCOUNT_CLONES void gain_row(float* rgb, const float* gains, const std::array<float, 4>& colours, int n) {
  Four all;
  std::memcpy(&all, colours.data(), sizeof all);
  gain_pixels(
      rgb, [&](int x) { return all * gains[x]; }, n);
}

ASKCOUNT_CLONES void gain_row(float* rgb, const float* gains, const float* red, const float* blue,
                              const std::array<float, 4>& colours, int n) {
  Four all;
  std::memcpy(&all, colours.data(), sizeof all);
  gain_pixels(
      rgb,
      [&](int x) {
        return all * gains[x] * Four{red[x], 1, blue[x], 1};
      },
      n);
}

namespace {

template <typename GainOf>
inline void bend_pixels(float* rgb, const GainOf& gain, float top, int n) {
  constexpr float kKnee = 0.8F;
  const Four knee = all_of(kKnee), one = all_of(1), none = all_of(0);
  const float over = 1 / (top - kKnee), bend = (top - kKnee) / (1 - kKnee);
  for (int x = 0; x < n; ++x) {
    Four v;
    std::memcpy(&v, rgb + 4 * x, sizeof v);
    v = held(gain(x), least(one, v / top)) * top;  // what is at the top stays there
    const Four u = least(one, most(none, (v - knee) * over));
    const Four w = least(knee, most(none, v)) + (one - knee) * bend * u / (one + (bend - 1) * u);
    std::memcpy(rgb + 4 * x, &w, sizeof w);
  }
}

}  // namespace

ASKCOUNT_CLONES void bend_row(float* rgb, const RowGains& by, const std::array<float, 4>& colours, float top,
                              int n) {
  const auto [gains, red, blue] = by;
  Four all;
  std::memcpy(&all, colours.data(), sizeof all);
  if (red)
    bend_pixels(
        rgb,
        [&](int x) {
          return all * gains[x] * Four{red[x], 1, blue[x], 1};
        },
        top, n);
  else
    bend_pixels(
        rgb, [&](int x) { return all * gains[x]; }, top, n);
}

ASKCOUNT_CLONES void lift_row(float* rgb, const float* gains, float air, int n) {
  for (int x = 0; x < n; ++x)
    for (int c = 0; c < 4; ++c) {
      const float v = rgb[4 * x + c];
      // What is lighter than the air is no haze.
      rgb[4 * x + c] = std::max(0.0F, std::min(v, air + (v - air) * gains[x]));
    }
}

ASKCOUNT_CLONES void mix_row(float* rgb, const Mix& mix, int n) {
  Four red, green, blue;
  std::memcpy(&red, mix[0].data(), sizeof red);
  std::memcpy(&green, mix[1].data(), sizeof green);
  std::memcpy(&blue, mix[2].data(), sizeof blue);
  for (int x = 0; x < n; ++x) {
    Four v;
    std::memcpy(&v, rgb + 4 * x, sizeof v);
    const float most = std::max(std::max(v[0], v[1]), v[2]);
    const float part = std::min(1.0F, std::max(0.0F, (1 - most) * 5));
    const Four mixed = red * v[0] + green * v[1] + blue * v[2];
    const Four out = v + (mixed - v) * part;
    std::memcpy(rgb + 4 * x, &out, sizeof out);
  }
}

namespace {

inline float luma_of(const Coded& row, int x) {
  return 0.2126F * row.r[x] + 0.7152F * row.g[x] + 0.0722F * row.b[x];
}

}  // namespace

ASKCOUNT_CLONES void crisp_row(const Coded& above, const Coded& row, const Coded& below, float more,
                               const Coded& out, int n) {
  for (int x = 0; x < n; ++x) {
    const int left = std::max(0, x - 1), right = std::min(n - 1, x + 1);
    float sum = 0;
    for (const Coded* r : {&above, &row, &below})
      sum += luma_of(*r, left) + luma_of(*r, x) + luma_of(*r, right);
    const float by = more * (luma_of(row, x) - sum / 9);
    out.r[x] = std::min(255.0F, std::max(0.0F, row.r[x] + by));
    out.g[x] = std::min(255.0F, std::max(0.0F, row.g[x] + by));
    out.b[x] = std::min(255.0F, std::max(0.0F, row.b[x] + by));
  }
}

/// Places in the coding table: sqrt of what is between 0 and 1, times its steps.
ASKCOUNT_CLONES void table_places(const float* linear, int* places, int n) {
  for (int i = 0; i < n; ++i) {
    const float v = std::min(1.0F, std::max(0.0F, linear[i]));
    places[i] = static_cast<int>(std::sqrt(v) * static_cast<float>(image::CodingTable::kSteps) + 0.5F);
  }
}

void code_row(const int* places, const std::array<const float*, 3>& tables, const Coded& out, int n) {
  const float *red = tables[0], *green = tables[1], *blue = tables[2];
  for (int x = 0; x < n; ++x) {
    out.r[x] = red[places[4 * x]];
    out.g[x] = green[places[4 * x + 1]];
    out.b[x] = blue[places[4 * x + 2]];
  }
}

namespace {

/// What red, green and blue weigh in luma.
struct Weights {
  float red, green, blue;
  float blue_span() const { return 2 * (1 - blue); }
  float red_span() const { return 2 * (1 - red); }
};

constexpr Weights weights_of(media::Matrix matrix) {
  return matrix == media::Matrix::Bt601 ? Weights{0.299F, 0.587F, 0.114F}
                                        : Weights{0.2126F, 0.7152F, 0.0722F};
}

/// Limited range of 8 bits, a code of 255 being white; with 10 bits everything counts four times.
template <typename Sample>
constexpr float kScale = sizeof(Sample) == 1 ? 1.0F : 4.0F;

template <typename Sample>
inline void luma(const float* r, const float* g, const float* b, const Weights& w, Sample* y, int n) {
  constexpr float k = kScale<Sample> * 219.0F / 255.0F, zero = kScale<Sample> * 16.0F + 0.5F;
  for (int x = 0; x < n; ++x)
    y[x] = static_cast<Sample>(static_cast<int>(zero + k * (w.red * r[x] + w.green * g[x] + w.blue * b[x])));
}

// Players place the colour samples of 4:2:0 left of the middle; (1 2 1) across would blur more than the mean
// of two by two shows, so the mean is taken.
template <typename Sample>
inline void chroma(const Coded& above, const Coded& below, const Weights& w, Sample* cb, Sample* cr, int n) {
  constexpr float k = kScale<Sample> * 224.0F / 255.0F / 4, zero = kScale<Sample> * 128.0F + 0.5F;
  const float per_blue = k / w.blue_span(), per_red = k / w.red_span();
  const float *r0 = above.r, *g0 = above.g, *b0 = above.b, *r1 = below.r, *g1 = below.g, *b1 = below.b;
  for (int x = 0; x < n; ++x) {
    const float r = r0[2 * x] + r0[2 * x + 1] + r1[2 * x] + r1[2 * x + 1];
    const float g = g0[2 * x] + g0[2 * x + 1] + g1[2 * x] + g1[2 * x + 1];
    const float b = b0[2 * x] + b0[2 * x + 1] + b1[2 * x] + b1[2 * x + 1];
    const float y = w.red * r + w.green * g + w.blue * b;
    cb[x] = static_cast<Sample>(static_cast<int>(zero + per_blue * (b - y)));
    cr[x] = static_cast<Sample>(static_cast<int>(zero + per_red * (r - y)));
  }
}

}  // namespace

ASKCOUNT_CLONES void luma_row(const Coded& row, media::Matrix matrix, std::uint8_t* y, int n) {
  luma(row.r, row.g, row.b, weights_of(matrix), y, n);
}
ASKCOUNT_CLONES void luma_row(const Coded& row, media::Matrix matrix, std::uint16_t* y, int n) {
  luma(row.r, row.g, row.b, weights_of(matrix), y, n);
}
ASKCOUNT_CLONES void chroma_row(const Coded& above, const Coded& below, media::Matrix matrix,
                                std::uint8_t* cb, std::uint8_t* cr, int n) {
  chroma(above, below, weights_of(matrix), cb, cr, n);
}
ASKCOUNT_CLONES void chroma_row(const Coded& above, const Coded& below, media::Matrix matrix,
                                std::uint16_t* cb, std::uint16_t* cr, int n) {
  chroma(above, below, weights_of(matrix), cb, cr, n);
}

void picture_row(const Coded& row, std::uint16_t* rgb, int n) {
  for (int x = 0; x < n; ++x, rgb += 3) {
    rgb[0] = static_cast<std::uint16_t>(257 * row.r[x] + 0.5F);
    rgb[1] = static_cast<std::uint16_t>(257 * row.g[x] + 0.5F);
    rgb[2] = static_cast<std::uint16_t>(257 * row.b[x] + 0.5F);
  }
}

void picture_row(const Coded& row, std::uint8_t* rgb, int n) {
  for (int x = 0; x < n; ++x, rgb += 3) {
    rgb[0] = static_cast<std::uint8_t>(row.r[x] + 0.5F);
    rgb[1] = static_cast<std::uint8_t>(row.g[x] + 0.5F);
    rgb[2] = static_cast<std::uint8_t>(row.b[x] + 0.5F);
  }
}

}  // namespace askcount::render
