// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/resample.h"

#include <algorithm>
#include <cmath>

namespace askcount::image {
namespace {

double kernel(double t) {
  t = std::abs(t);
  return t >= 1 ? 0 : (2 * t - 3) * t * t + 1;
}

}  // namespace

Taps Taps::of(int source, double offset, double part, int output) {
  Taps a;
  const double ratio = part / output;
  const double reach = std::max(1.0, ratio);
  const int least = std::clamp(static_cast<int>(std::floor(offset + 1e-6)), 0, source - 1);
  const int most = std::clamp(static_cast<int>(std::ceil(offset + part - 1e-6)) - 1, least, source - 1);
  a.taps = std::min(source, static_cast<int>(std::ceil(2 * reach)) + 1);
  a.first.resize(static_cast<size_t>(output));
  a.weights.assign(static_cast<size_t>(output) * static_cast<size_t>(a.taps), 0.0F);
  std::vector<double> w(static_cast<size_t>(a.taps));
  for (int i = 0; i < output; ++i) {
    const double middle = offset + (i + 0.5) * ratio - 0.5;
    const int low = static_cast<int>(std::floor(middle - reach)) + 1;
    const int first = std::clamp(low, 0, source - a.taps);
    a.first[static_cast<size_t>(i)] = first;
    std::fill(w.begin(), w.end(), 0.0);
    double sum = 0;
    for (int k = low; k <= static_cast<int>(std::ceil(middle + reach)) - 1; ++k) {
      const double v = kernel((k - middle) / reach);
      const int at = std::clamp(std::clamp(k, least, most) - first, 0, a.taps - 1);
      w[static_cast<size_t>(at)] += v;
      sum += v;
    }
    float* into = a.weights.data() + static_cast<size_t>(i) * static_cast<size_t>(a.taps);
    for (int k = 0; k < a.taps; ++k) into[k] = static_cast<float>(w[static_cast<size_t>(k)] / sum);
  }
  return a;
}

Taps Taps::of(int source, double offset, double step, int output, Kernel kernel) {
  Taps a;
  const double scale = std::max(1.0, step), half = reach_of(kernel) * scale;
  a.taps = std::min(source, static_cast<int>(std::ceil(2 * half)) + 1);
  a.first.resize(static_cast<size_t>(output));
  a.weights.assign(static_cast<size_t>(output) * static_cast<size_t>(a.taps), 0.0F);
  std::vector<double> w(static_cast<size_t>(a.taps));
  for (int i = 0; i < output; ++i) {
    const double middle = offset + (i + 0.5) * step - 0.5;
    const int low = static_cast<int>(std::ceil(middle - half)),
              high = static_cast<int>(std::floor(middle + half));
    const int first = std::clamp(low, 0, source - a.taps);
    a.first[static_cast<size_t>(i)] = first;
    std::fill(w.begin(), w.end(), 0.0);
    double sum = 0;
    for (int k = low; k <= high; ++k) {
      const double v = kernel_at(kernel, (k - middle) / scale);
      w[static_cast<size_t>(std::clamp(std::clamp(k, 0, source - 1) - first, 0, a.taps - 1))] += v;
      sum += v;
    }
    float* into = a.weights.data() + static_cast<size_t>(i) * static_cast<size_t>(a.taps);
    for (int k = 0; k < a.taps; ++k) into[k] = static_cast<float>(w[static_cast<size_t>(k)] / sum);
  }
  return a;
}

Resampling::Resampling(Size from, const Affine& map, Size to, Kernel kernel)
    : from_(from),
      to_(to),
      part_{map.x0, map.y0, map.xx * to.width, map.yy * to.height},
      across_(Taps::of(from.width, map.x0, map.xx, to.width, kernel)),
      down_(Taps::of(from.height, map.y0, map.yy, to.height, kernel)) {}

Resampling::Resampling(Size from, const RectF& part, Size to)
    : from_(from),
      to_(to),
      part_(part),
      across_(Taps::of(from.width, part.x, part.width, to.width)),
      down_(Taps::of(from.height, part.y, part.height, to.height)) {}

}  // namespace askcount::image
