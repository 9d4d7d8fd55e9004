// What a field does to the light of a frame.
#pragma once

#include "image/field.h"
#include "image/luminance.h"

namespace askcount::level {

/// Mean light of the frame's parts once the field is on them, by what it was before; highlights are held. 1
/// for a flat field and for a black frame.
double field_gain(const image::Luminance& luminance, const image::Field& field);

}  // namespace askcount::level
