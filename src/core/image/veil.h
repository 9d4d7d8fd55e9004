// SPDX-License-Identifier: GPL-3.0-or-later
// The haze that lies over the distant parts of a picture.
#pragma once

#include <array>

#include "image/field.h"
#include "image/luminance.h"

namespace askcount::image {

/// How much light the haze adds, told by what is darkest around each place. Source: He, Sun and Tang, "Single
/// image haze removal using dark channel prior" (2009), smoothed to the few terms of a Field.
struct Veil {
  float air = 0;  ///< linear light of haze that lets nothing through; 0 where nothing was measured
  Field thick;    ///< terms of the darkest light around each place, linear
  bool operator==(const Veil&) const = default;

  /// Of one frame.
  static Veil of(const Luminance& luminance);
  /// The gains, as a Field, that lift `share` (0 to 1) of it: light becomes air + (light − air) × gain.
  Field lifted(double share) const;
};

/// The few smooth terms nearest to values of each of Luminance's parts (least squares).
Field smooth_terms(const std::array<float, Luminance::kParts>& values);

}  // namespace askcount::image
