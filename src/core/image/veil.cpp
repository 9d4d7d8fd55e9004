#include "image/veil.h"

#include <algorithm>
#include <cmath>

namespace askcount::image {
namespace {

constexpr double kAtMost = 0.9;  // of the light is taken away, however thick it is: noise lies below

/// Each term at each part's middle. On this grid the terms are orthogonal: least squares is a projection.
const std::array<std::array<float, Luminance::kParts>, Field::kTerms>& terms() {
  static const auto all = [] {
    std::array<std::array<float, Luminance::kParts>, Field::kTerms> t{};
    for (int k = 0; k < Field::kTerms; ++k)
      for (int p = 0; p < Luminance::kParts; ++p)
        t[static_cast<size_t>(k)][static_cast<size_t>(p)] = static_cast<float>(
            Field::term(k, (p % Luminance::kAcross + 0.5) / Luminance::kAcross,
                        (static_cast<double>(p / Luminance::kAcross) + 0.5) / Luminance::kDown));
    return t;
  }();
  return all;
}

}  // namespace

Field smooth_terms(const std::array<float, Luminance::kParts>& values) {
  Field out;
  for (size_t k = 0; k < Field::kTerms; ++k) {
    const auto& term = terms()[k];
    double sum = 0, square = 0;
    for (size_t p = 0; p < values.size(); ++p) {
      sum += static_cast<double>(term[p] * values[p]);
      square += static_cast<double>(term[p] * term[p]);
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
    for (size_t k = 0; k < Field::kTerms; ++k) light += static_cast<double>(thick.stops[k] * terms()[k][p]);
    const double through = 1 - kAtMost * share * std::clamp(light / static_cast<double>(air), 0.0, 1.0);
    gains[p] = static_cast<float>(-std::log2(through));
  }
  return smooth_terms(gains);
}

}  // namespace askcount::image
