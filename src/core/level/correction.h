// SPDX-License-Identifier: GPL-3.0-or-later
// What is done to the light of one frame so that it fits its neighbours.
#pragma once

#include "image/field.h"
#include "image/tone.h"
#include "image/veil.h"

namespace askcount::level {

/// How a frame is put right, and what was measured of it that its look goes by.
struct Correction {
  image::Gain gain;                    ///< in linear light, highlights held
  image::Field field;                  ///< besides, where parts flicker apart from the whole
  image::Field red_field, blue_field;  ///< of those colours against green, besides that
  image::Veil veil;                    ///< the haze over the frame, steady from frame to frame

  Correction() = default;
  Correction(const image::Gain& all) : gain(all) {}  // alike everywhere
  Correction(double all) : gain(all) {}
  bool operator==(const Correction&) const = default;

  /// Whether all of the picture is changed alike.
  bool flat() const { return field.flat() && red_field.flat() && blue_field.flat(); }
};

}  // namespace askcount::level
