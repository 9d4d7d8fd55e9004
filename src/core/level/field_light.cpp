// SPDX-License-Identifier: GPL-3.0-or-later
#include "level/field_light.h"

#include <cmath>

#include "image/part_terms.h"

namespace askcount::level {

double light_after_fields(const image::Luminance& l, const Correction& correction, int part) {
  const auto p = static_cast<size_t>(part);
  const auto light = std::exp2(l.parts[p]);
  double stops = image::stops_at(correction.field, part);
  if (l.red[p] < image::Luminance::kUnknown && l.blue[p] < image::Luminance::kUnknown) {
    const auto of = [&](double red, double blue) {
      return static_cast<double>(image::luminance(std::exp2(l.red[p] + static_cast<float>(red)), 1,
                                                  std::exp2(l.blue[p] + static_cast<float>(blue))));
    };
    stops += std::log2(
        of(image::stops_at(correction.red_field, part), image::stops_at(correction.blue_field, part)) /
        of(0, 0));
  }
  return static_cast<double>(image::GainCurve(std::exp2(stops))(light));
}

double field_gain(const image::Luminance& luminance, const Correction& correction) {
  if (correction.flat()) return 1;
  double without = 0, with = 0;
  for (int p = 0; p < image::Luminance::kParts; ++p) {
    without += static_cast<double>(std::exp2(luminance.parts[static_cast<size_t>(p)]));
    with += light_after_fields(luminance, correction, p);
  }
  return without > 0 ? with / without : 1;
}

}  // namespace askcount::level
