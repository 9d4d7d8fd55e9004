#include "cut/resample.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "picture/tone.h"

// The loops below are where a render spends its own time: where the compiler can, they are built for newer
// processors too and chosen at start.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(ASKCOUNT_SANITIZED)
#define ASKCOUNT_CLONES __attribute__((target_clones("arch=x86-64-v3", "default")))
#else
#define ASKCOUNT_CLONES
#endif

namespace askcount::cut {
namespace {

using Four = float __attribute__((vector_size(16)));

/// 2t³ − 3t² + 1: smooth, no wider than a pixel of the smaller picture, never negative.
double kernel(double t) {
  t = std::abs(t);
  return t >= 1 ? 0 : (2 * t - 3) * t * t + 1;
}

ASKCOUNT_CLONES void to_linear(const std::uint8_t* codes, const float* table, float* linear, int n) {
  for (int i = 0; i < n; ++i) linear[i] = table[codes[i]];
}

/// Rows added up by their weights, all in one go over the row where they are few, as they nearly always are.
ASKCOUNT_CLONES void weigh_rows(const float* const* rows, const float* weights, int taps,
                                float* __restrict out, int n) {
  const float *a = rows[0], *b = rows[std::min(1, taps - 1)], *c = rows[std::min(2, taps - 1)];
  const float* d = rows[std::min(3, taps - 1)];
  const float wa = weights[0], wb = taps > 1 ? weights[1] : 0, wc = taps > 2 ? weights[2] : 0;
  const float wd = taps > 3 ? weights[3] : 0;
  if (taps <= 2)
    for (int i = 0; i < n; ++i) out[i] = a[i] * wa + b[i] * wb;
  else if (taps == 3)
    for (int i = 0; i < n; ++i) out[i] = a[i] * wa + b[i] * wb + c[i] * wc;
  else
    for (int i = 0; i < n; ++i) out[i] = a[i] * wa + b[i] * wb + c[i] * wc + d[i] * wd;
  for (int k = 4; k < taps; ++k) {
    const float w = weights[k];
    const float* r = rows[k];
    for (int i = 0; i < n; ++i) out[i] += r[i] * w;
  }
}

/// One row across: `in` has three floats a pixel (and room for one more at the end), `out` four.
ASKCOUNT_CLONES void weigh_across(const float* in, const int* first, const float* weights, int taps,
                                  float* __restrict out, int n) {
  const auto four_at = [](const float* p) {
    Four v;
    std::memcpy(&v, p, sizeof v);
    return v;
  };
  if (taps == 4) {
    for (int x = 0; x < n; ++x) {
      const float* p = in + 3 * first[x];
      const float* w = weights + 4 * x;
      const Four sum =
          (four_at(p) * w[0] + four_at(p + 3) * w[1]) + (four_at(p + 6) * w[2] + four_at(p + 9) * w[3]);
      std::memcpy(out + 4 * x, &sum, sizeof sum);
    }
    return;
  }
  for (int x = 0; x < n; ++x) {
    const float* p = in + 3 * first[x];
    const float* w = weights + x * taps;
    Four sum = {0, 0, 0, 0};
    for (int k = 0; k < taps; ++k, p += 3) sum += four_at(p) * w[k];
    std::memcpy(out + 4 * x, &sum, sizeof sum);
  }
}

/// Places in the coding table: sqrt of what is between 0 and 1, times its steps.
ASKCOUNT_CLONES void table_places(const float* linear, int* places, int n) {
  for (int i = 0; i < n; ++i) {
    const float v = std::min(1.0F, std::max(0.0F, linear[i]));
    places[i] = static_cast<int>(std::sqrt(v) * static_cast<float>(picture::CodingTable::kSteps) + 0.5F);
  }
}

/// Coded red, green and blue (0 to 255) of a row, in rows of their own.
void code_row(const int* places, const float* table, float* __restrict r, float* __restrict g,
              float* __restrict b, int n) {
  for (int x = 0; x < n; ++x) {
    r[x] = table[places[4 * x]];
    g[x] = table[places[4 * x + 1]];
    b[x] = table[places[4 * x + 2]];
  }
}

ASKCOUNT_CLONES void luma_row(const float* r, const float* g, const float* b, std::uint8_t* y, int n) {
  constexpr float k = 219.0F / 255.0F;
  for (int x = 0; x < n; ++x)
    y[x] = static_cast<std::uint8_t>(
        static_cast<int>(16.5F + k * (0.2126F * r[x] + 0.7152F * g[x] + 0.0722F * b[x])));
}

/// Colour of two rows by two columns; co-sited left as MPEG-4 AVC has it by default: (1 2 1) across would
/// blur more than the two-by-two mean shows, so the mean is taken.
ASKCOUNT_CLONES void chroma_row(const float* r0, const float* g0, const float* b0, const float* r1,
                                const float* g1, const float* b1, std::uint8_t* cb, std::uint8_t* cr, int n) {
  constexpr float k = 224.0F / 255.0F / 4;
  for (int x = 0; x < n; ++x) {
    const float r = r0[2 * x] + r0[2 * x + 1] + r1[2 * x] + r1[2 * x + 1];
    const float g = g0[2 * x] + g0[2 * x + 1] + g1[2 * x] + g1[2 * x + 1];
    const float b = b0[2 * x] + b0[2 * x + 1] + b1[2 * x] + b1[2 * x + 1];
    const float y = 0.2126F * r + 0.7152F * g + 0.0722F * b;
    cb[x] = static_cast<std::uint8_t>(static_cast<int>(128.5F + k * (b - y) / 1.8556F));
    cr[x] = static_cast<std::uint8_t>(static_cast<int>(128.5F + k * (r - y) / 1.5748F));
  }
}

}  // namespace

Resampler::Axis Resampler::axis(int source, int offset, int length, int output) {
  Axis a;
  const double ratio = static_cast<double>(length) / output;
  const double reach = std::max(1.0, ratio);
  a.taps = std::min(source, static_cast<int>(std::ceil(2 * reach)) + 1);
  a.first.resize(static_cast<size_t>(output));
  a.weights.assign(static_cast<size_t>(output) * a.taps, 0.0F);
  for (int i = 0; i < output; ++i) {
    const double middle = offset + (i + 0.5) * ratio - 0.5;
    const int low = static_cast<int>(std::floor(middle - reach)) + 1;
    const int first = std::clamp(low, 0, source - a.taps);
    a.first[static_cast<size_t>(i)] = first;
    double sum = 0;
    std::vector<double> w(static_cast<size_t>(a.taps), 0.0);
    for (int k = low; k <= static_cast<int>(std::ceil(middle + reach)) - 1; ++k) {
      const double v = kernel((k - middle) / reach);
      const int at = std::clamp(std::clamp(k, offset, offset + length - 1) - first, 0, a.taps - 1);
      w[static_cast<size_t>(at)] += v;
      sum += v;
    }
    for (int k = 0; k < a.taps; ++k)
      a.weights[static_cast<size_t>(i) * a.taps + k] = static_cast<float>(w[static_cast<size_t>(k)] / sum);
  }
  return a;
}

Resampler::Resampler(picture::Size from, picture::Rect part, picture::Size to)
    : from_(from),
      to_(to),
      part_(part),
      across_(axis(from.width, part.x, part.width, to.width)),
      down_(axis(from.height, part.y, part.height, to.height)) {}

void Resampler::draw(const picture::Picture8& picture, double gain, const FilmFrame& film) const {
  const auto& linear = picture::linear_of_code();
  const picture::CodingTable coding{picture::GainCurve(gain)};
  const int wide = 3 * from_.width;
  const int ring = down_.taps + 1;
  std::vector<float> rows(static_cast<size_t>(ring) * wide);
  std::vector<int> in_ring(static_cast<size_t>(ring), -1);
  std::vector<float> column(static_cast<size_t>(wide) + 4), across(4 * static_cast<size_t>(to_.width));
  std::vector<int> places(4 * static_cast<size_t>(to_.width));
  std::vector<float> coded(6 * static_cast<size_t>(to_.width));
  std::vector<const float*> taps(static_cast<size_t>(down_.taps));
  for (int y = 0; y < to_.height; ++y) {
    const float* weights = down_.weights.data() + static_cast<size_t>(y) * down_.taps;
    int first = down_.first[static_cast<size_t>(y)], count = down_.taps;
    while (count > 1 && weights[0] == 0) ++weights, ++first, --count;
    while (count > 1 && weights[count - 1] == 0) --count;
    for (int k = 0; k < count; ++k) {
      const int row = first + k, slot = row % ring;
      float* place = rows.data() + static_cast<size_t>(slot) * wide;
      if (in_ring[static_cast<size_t>(slot)] != row) {
        to_linear(picture.row(row), linear.data(), place, wide);
        in_ring[static_cast<size_t>(slot)] = row;
      }
      taps[static_cast<size_t>(k)] = place;
    }
    weigh_rows(taps.data(), weights, count, column.data(), wide);
    weigh_across(column.data(), across_.first.data(), across_.weights.data(), across_.taps, across.data(),
                 to_.width);
    table_places(across.data(), places.data(), 4 * to_.width);
    float* r = coded.data() + static_cast<size_t>(y % 2) * 3 * to_.width;
    float *g = r + to_.width, *b = g + to_.width;
    code_row(places.data(), coding.data(), r, g, b, to_.width);
    luma_row(r, g, b, film.plane[0] + static_cast<size_t>(y) * film.stride[0], to_.width);
    if (y % 2 == 0) continue;
    const float* r0 = coded.data();
    const float* r1 = coded.data() + 3 * static_cast<size_t>(to_.width);
    const size_t row = static_cast<size_t>(y / 2);
    chroma_row(r0, r0 + to_.width, r0 + 2 * to_.width, r1, r1 + to_.width, r1 + 2 * to_.width,
               film.plane[1] + row * film.stride[1], film.plane[2] + row * film.stride[2], to_.width / 2);
  }
}

}  // namespace askcount::cut
