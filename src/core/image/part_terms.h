// SPDX-License-Identifier: GPL-3.0-or-later
// The terms of a Field at the parts that Luminance measures.
#pragma once

#include <array>

#include "image/field.h"
#include "image/luminance.h"

namespace askcount::image {

/// Each term's value at the middle of each part, by part. On this grid the terms are orthogonal.
const std::array<std::array<double, Field::kTerms>, Luminance::kParts>& part_terms();

/// Stops of a field at the middle of a part, within Field::kMost.
double stops_at(const Field& field, int part);

}  // namespace askcount::image
