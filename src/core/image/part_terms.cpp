#include "image/part_terms.h"

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
  return field.at(across(part), down(part));
}

}  // namespace askcount::image
