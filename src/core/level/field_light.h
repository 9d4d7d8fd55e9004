// SPDX-License-Identifier: GPL-3.0-or-later
// What fields do to the light of a frame.
#pragma once

#include "image/luminance.h"
#include "level/correction.h"

namespace askcount::level {

/// Light of a frame's part (0 to 1) once the fields of a correction are on it, its gain and tint left out;
/// highlights are held.
double light_after_fields(const image::Luminance& luminance, const Correction& correction, int part);

/// Mean light of the frame's parts once the fields are on them, by what it was before. 1 where all is changed
/// alike, and for a black frame.
double field_gain(const image::Luminance& luminance, const Correction& correction);

}  // namespace askcount::level
