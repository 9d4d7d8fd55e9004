// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/part_terms.h"

#include <algorithm>

namespace askcount::image {
namespace {

double across(int part) {
  return (part % Luminance::kAcross + 0.5) / Luminance::kAcross;
}

double down(int part) {
  return (static_cast<double>(part / Luminance::kAcross) + 0.5) / Luminance::kDown;
}

}  // namespace

const std::array<std::array<double, Field::kTerms>, Luminance::kParts>& part_terms() {
  static const auto all = [] {
    std::array<std::array<double, Field::kTerms>, Luminance::kParts> t{};
    for (int p = 0; p < Luminance::kParts; ++p)
      for (int k = 0; k < Field::kTerms; ++k)
        t[static_cast<size_t>(p)][static_cast<size_t>(k)] = Field::term(k, across(p), down(p));
    return t;
  }();
  return all;
}

double stops_at(const Field& field, int part) {
  const auto& terms = part_terms()[static_cast<size_t>(part)];
  double sum = 0;
  for (size_t k = 0; k < terms.size(); ++k) sum += static_cast<double>(field.stops[k]) * terms[k];
  return std::clamp(sum, -Field::kMost, Field::kMost);
}

}  // namespace askcount::image
