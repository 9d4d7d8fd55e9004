// SPDX-License-Identifier: GPL-3.0-or-later
// What a look does to brightness.
#pragma once

#include "image/tone.h"
#include "look/look.h"
#include "look/monotone.h"

namespace askcount::look {

/// The tones that a look is told by, as sRGB codes from 0 to 1 and in linear light.
inline constexpr double kMidGrey = 0.18;
inline constexpr double kLowerFifth = 0.2, kUpperFifth = 0.8;

/// Linear light (0 to 1) in, linear light out, rising throughout: the look's light as a gain with held
/// highlights, then a curve in stops from mid grey through five tones (deep dark, the lower fifth, mid grey
/// with the slope of `depth`, the upper fifth, white), then black. Bright parts stay below white and apart
/// from mid grey, however far they are asked to go.
class ToneCurve {
 public:
  explicit ToneCurve(const Look& look);
  double operator()(double linear) const;
  /// Whether it leaves everything as it is.
  bool none() const { return none_; }

 private:
  bool none_;
  image::GainCurve light_;
  bool shaped_;
  Monotone shape_;
  double deepest_in_, deepest_out_;
  double black_;
};

}  // namespace askcount::look
