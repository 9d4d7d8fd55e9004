#include "level/field_light.h"

#include <cmath>

#include "image/part_terms.h"
#include "level/levelling.h"

namespace askcount::level {

double field_gain(const image::Luminance& luminance, const image::Field& field) {
  if (field.flat()) return 1;
  double without = 0, with = 0;
  for (int p = 0; p < image::Luminance::kParts; ++p) {
    const double light = static_cast<double>(std::exp2(luminance.parts[static_cast<size_t>(p)]));
    without += light;
    with += light_after(light, image::stops_at(field, p));
  }
  return without > 0 ? with / without : 1;
}

}  // namespace askcount::level
