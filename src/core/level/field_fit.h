// SPDX-License-Identifier: GPL-3.0-or-later
// A field fitted to what the parts of a picture say.
#pragma once

#include <array>

#include "image/field.h"
#include "image/luminance.h"

namespace askcount::level {

/// A field fitted to values of the parts, and the variance chance gives each of its terms.
struct FieldFit {
  static constexpr int kFewestParts = 60;  ///< of Luminance::kParts that a field is fitted to

  std::array<double, image::Field::kTerms> terms{}, chance{};
  bool good = false;  ///< whether there were enough parts for it
};

/// Fits a field to values of the parts (in any unit; image::Luminance::kUnknown for those that tell nothing)
/// by least squares that are deaf to outliers: four rounds of Tukey's bisquare, from the median of what is
/// left over. A slight ridge holds it where parts tell nothing. Terms are not held to Field::kMost.
FieldFit fit_field(const std::array<float, image::Luminance::kParts>& values);

}  // namespace askcount::level
