// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/veil.h"

#include <algorithm>
#include <cmath>

#include "image/part_terms.h"

namespace askcount::image {
namespace {

constexpr double kAtMost = 0.9;  // of the light is taken away, however thick it is: noise lies below

}  // namespace

Field smooth_terms(const std::array<float, Luminance::kParts>& values) {
  Field out;  // least squares on orthogonal terms is a projection
  for (size_t k = 0; k < Field::kTerms; ++k) {
    double sum = 0, square = 0;
    for (size_t p = 0; p < values.size(); ++p) {
      const double term = part_terms()[p][k];
      sum += term * static_cast<double>(values[p]);
      square += term * term;
    }
    out.stops[k] = static_cast<float>(sum / square);
  }
  return out;
}

Veil Veil::of(const Luminance& luminance) {
  Veil veil;
  veil.air = *std::max_element(luminance.darkest.begin(), luminance.darkest.end());
  veil.thick = smooth_terms(luminance.darkest);
  return veil;
}

Field Veil::lifted(double share) const {
  if (air <= 0 || share <= 0) return {};
  std::array<float, Luminance::kParts> gains{};
  for (size_t p = 0; p < gains.size(); ++p) {
    double light = 0;
    for (size_t k = 0; k < Field::kTerms; ++k)
      light += static_cast<double>(thick.stops[k]) * part_terms()[p][k];
    const double through = 1 - kAtMost * share * std::clamp(light / static_cast<double>(air), 0.0, 1.0);
    gains[p] = static_cast<float>(-std::log2(through));
  }
  return smooth_terms(gains);
}

}  // namespace askcount::image
