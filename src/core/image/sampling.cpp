// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/sampling.h"

#include <array>
#include <cstring>

#include "image/clones.h"

namespace askcount::image {

double reach_of(Kernel kernel) {
  return kernel == Kernel::Calm ? 1.5 : 2;
}

double kernel_at(Kernel kernel, double distance) {
  const double t = std::abs(distance);
  if (kernel == Kernel::Calm) {
    if (t >= 1.5) return 0;
    return t <= 0.5 ? 0.75 - t * t : 0.5 * (1.5 - t) * (1.5 - t);
  }
  if (t >= 2) return 0;  // Keys, IEEE Trans. ASSP 29 (1981)
  return t <= 1 ? (1.5 * t - 2.5) * t * t + 1 : ((-0.5 * t + 2.5) * t - 4) * t + 2;
}

KernelTable::KernelTable(Kernel kernel, double ratio) {
  const double scale = std::max(1.0, ratio);
  half_ = reach_of(kernel) * scale;
  taps_ = (static_cast<int>(std::ceil(2 * half_)) + 1) / 2 * 2;  // two at a time
  weights_.resize(static_cast<std::size_t>(taps_) * (kPhases + 1));
  for (int phase = 0; phase <= kPhases; ++phase) {
    float* w = weights_.data() + static_cast<std::size_t>(phase) * static_cast<std::size_t>(taps_);
    // The first tap lies this far above the lower end of the kernel.
    const double above = (static_cast<double>(phase) + 0.5) / kPhases;
    double sum = 0;
    std::vector<double> all(static_cast<std::size_t>(taps_));
    for (int k = 0; k < taps_; ++k)
      sum += all[static_cast<std::size_t>(k)] = kernel_at(kernel, (above + k - half_) / scale);
    for (int k = 0; k < taps_; ++k) w[k] = static_cast<float>(all[static_cast<std::size_t>(k)] / sum);
  }
  for (const float w : weights_) fourfold_.insert(fourfold_.end(), 4, w);
}

namespace {

double ratio_across(const Affine& map) {
  return std::hypot(map.xx, map.yx);
}
double ratio_down(const Affine& map) {
  return std::hypot(map.xy, map.yy);
}
/// The density along the picture's own columns and rows, for maps that turn by any angle.
double along(double a, double b, double ratio_a, double ratio_b) {
  const double sum = a * a + b * b;
  return sum > 0 ? std::sqrt((a * a * ratio_a * ratio_a + b * b * ratio_b * ratio_b) / sum) : ratio_a;
}

}  // namespace

Sampling::Sampling(Size from, const Affine& map, Size to, Kernel kernel)
    : from_(from),
      to_(to),
      map_(map),
      across_(kernel, along(map.xx, map.xy, ratio_across(map), ratio_down(map))),
      down_(kernel, along(map.yy, map.yx, ratio_down(map), ratio_across(map))) {}

std::array<int, 2> Sampling::rows_of(int y) const {
  const double left = map_(0, y + 0.5)[1], right = map_(to_.width, y + 0.5)[1];
  const double reach = down_.taps() / 2.0 + 1;
  const int most = from_.height - 1;
  return {std::clamp(static_cast<int>(std::floor(std::min(left, right) - reach)), 0, most),
          std::clamp(static_cast<int>(std::ceil(std::max(left, right) + reach)), 0, most)};
}

namespace {

using Four = float __attribute__((vector_size(16)));
using Eight = float __attribute__((vector_size(32)));

/// One pixel of `kPairs` times two taps across: rows added up by their weights, then what lies beside each
/// other.
template <int kPairs>
inline void sample_pixel(const float* const* rows, const float* down, const float* fourfold, int taps_down,
                         float* out) {
  std::array<Eight, kPairs> sum{};
  for (int k = 0; k < taps_down; ++k) {
    const float w = down[k];
    for (int i = 0; i < kPairs; ++i) {
      Eight v;
      std::memcpy(&v, rows[k] + 8 * i, sizeof v);
      sum[static_cast<std::size_t>(i)] += v * w;
    }
  }
  Eight all{};
  for (int i = 0; i < kPairs; ++i) {
    Eight w;
    std::memcpy(&w, fourfold + 8 * i, sizeof w);
    all += w * sum[static_cast<std::size_t>(i)];
  }
  Four low, high;
  std::memcpy(&low, &all, sizeof low);
  std::memcpy(&high, reinterpret_cast<const char*>(&all) + sizeof low, sizeof high);
  low += high;
  std::memcpy(out, &low, sizeof low);
}

inline void sample_any(const float* const* rows, const float* down, const float* fourfold, int taps_down,
                       int taps_across, float* out) {
  Four pixel{};
  for (int k = 0; k < taps_down; ++k)
    for (int i = 0; i < taps_across; ++i) {
      Four v, w;
      std::memcpy(&v, rows[k] + static_cast<std::ptrdiff_t>(4) * i, sizeof v);
      std::memcpy(&w, fourfold + static_cast<std::ptrdiff_t>(4) * i, sizeof w);
      pixel += v * w * down[k];
    }
  std::memcpy(out, &pixel, sizeof pixel);
}

}  // namespace

ASKCOUNT_CLONES void sample_row(const Sampling& how, int y, const SourceRows& source, float* out) {
  const auto [rows, first_row, count, margin] = source;
  const Affine& map = how.map();
  const int taps_across = how.across().taps(), taps_down = how.down().taps();
  const int least = -margin, most = how.from().width + margin - taps_across;
  std::vector<const float*> near(static_cast<std::size_t>(taps_down));
  auto [u, v] = map(0.5, y + 0.5);
  for (int x = 0; x < how.to().width; ++x, u += map.xx, v += map.yx) {
    int column = 0, row = 0;
    const float* across = how.across().at_fourfold(u, column);
    const float* down = how.down().at(v, row);
    const std::ptrdiff_t begin = 4 * static_cast<std::ptrdiff_t>(std::clamp(column, least, most));
    for (int k = 0; k < taps_down; ++k)
      near[static_cast<std::size_t>(k)] = rows[std::clamp(row + k - first_row, 0, count - 1)] + begin;
    switch (taps_across) {
      case 4:
        sample_pixel<2>(near.data(), down, across, taps_down, out + 4 * x);
        break;
      case 6:
        sample_pixel<3>(near.data(), down, across, taps_down, out + 4 * x);
        break;
      case 8:
        sample_pixel<4>(near.data(), down, across, taps_down, out + 4 * x);
        break;
      default:
        sample_any(near.data(), down, across, taps_down, taps_across, out + 4 * x);
    }
  }
}

}  // namespace askcount::image
