// SPDX-License-Identifier: GPL-3.0-or-later
// The coding of brightness: sRGB code values and linear light.
#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <utility>
#include <vector>

#include "image/pixels.h"

namespace askcount::image {

/// Linear light (0 to 1) of the 256 code values. Source: IEC 61966-2-1.
const std::array<float, 256>& linear_of_code();

/// Code (0 to 1) of linear light; values outside 0 to 1 are clamped. Source: IEC 61966-2-1.
float code_of_linear(float linear);

/// Linear light of a code from 0 to 1.
float linear_of_code_value(float code);

/// Luminance of linear red, green, blue. Source: ITU-R BT.709.
inline float luminance(float r, float g, float b) {
  return 0.2126F * r + 0.7152F * g + 0.0722F * b;
}

/// What each colour is multiplied by in linear light.
struct Gain {
  double red = 1, green = 1, blue = 1;
  Gain() = default;
  Gain(double all) : red(all), green(all), blue(all) {}  // one number is a gain of all three
  Gain(double r, double g, double b) : red(r), green(g), blue(b) {}
  bool operator==(const Gain&) const = default;
  bool alike() const { return red == green && green == blue; }
  Gain times(double all) const { return {red * all, green * all, blue * all}; }
};

/// Brightness multiplied in linear light, with the highlights held: gain × x up to a knee, from there a
/// smooth shoulder through (1, 1), so that white stays white whether a frame is lowered or raised. `gain`
/// above zero.
class GainCurve {
 public:
  explicit GainCurve(double gain);
  float operator()(float linear) const {
    if (linear <= knee_) return gain_ * linear;
    const float u = (linear - knee_) * over_;
    return u >= 1 ? 1 : top_ + (1 - top_) * bend_ * u / (1 + (bend_ - 1) * u);
  }
  double gain() const { return gain_; }

 private:
  float gain_, knee_, over_, top_, bend_;
};

/// A gain curve followed by the sRGB coding, tabulated over the square root of linear light: code (0 to 255,
/// not rounded) of a value is table[sqrt(x) × kSteps], x clamped to 0 to 1. Within 0.04 of a code of the
/// exact curve.
class CodingTable {
 public:
  static constexpr int kSteps = 8191;
  explicit CodingTable(const GainCurve& curve);
  /// The same with any curve from 0 to 1 to 0 to 1.
  explicit CodingTable(const std::function<float(float)>& curve);
  const float* data() const { return table_.data(); }
  std::vector<float> take() && { return std::move(table_); }

 private:
  template <typename Curve>
  void fill(const Curve& curve);
  std::vector<float> table_;
};

/// Luma (BT.601, as in JPEG) of an 8-bit picture.
Grey8 grey(const Coded8& picture);

/// A picture as linear light: itself, or its codes decoded.
Linear32 linear(Picture picture);

/// The same with what is beyond white bent below it, as it is shown.
Linear32 shown_light(Picture picture);

/// A picture as 8-bit codes: itself, or its linear light coded, what is beyond white bent below it.
Coded8 coded(Picture picture);

}  // namespace askcount::image
