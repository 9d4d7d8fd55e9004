// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/tones.h"

#include <algorithm>
#include <cmath>

namespace askcount::look {
namespace {

constexpr double kDeepest = -10;  // stops from mid grey: from there on down every tone moves alike
constexpr double kApart = 0.05;   // stops that tones stay apart

double stops_of_code(double code) {
  return std::log2(static_cast<double>(image::linear_of_code_value(static_cast<float>(code))) / kMidGrey);
}

Monotone shape_of(const Look& look) {
  const double dark = stops_of_code(kLowerFifth), bright = stops_of_code(kUpperFifth);
  const double white = std::log2(1 / kMidGrey);
  const double dark_out = std::min(look.depth * dark + look.dark_parts, -kApart);
  const double bright_out = std::clamp(look.depth * bright + look.bright_parts, kApart, white - kApart);
  return {{kDeepest, dark, 0, bright, white},
          {std::min(kDeepest + dark_out - dark, dark_out - kApart), dark_out, 0, bright_out, white},
          2,
          look.depth};
}

}  // namespace

ToneCurve::ToneCurve(const Look& look)
    : none_(look.light == 0 && look.depth == 1 && look.bright_parts == 0 && look.dark_parts == 0 &&
            look.black == 0),
      light_(std::exp2(look.light)),
      shaped_(look.depth != 1 || look.bright_parts != 0 || look.dark_parts != 0),
      shape_(shape_of(look)),
      deepest_in_(kMidGrey * std::exp2(kDeepest)),
      deepest_out_(kMidGrey * std::exp2(shape_(kDeepest))),
      black_(look.black / 100) {}

double ToneCurve::operator()(double linear) const {
  if (none_) return linear;
  double v = static_cast<double>(light_(static_cast<float>(std::clamp(linear, 0.0, 1.0))));
  if (shaped_)
    v = v <= deepest_in_ ? v * deepest_out_ / deepest_in_
                         : kMidGrey * std::exp2(shape_(std::log2(v / kMidGrey)));
  v = black_ >= 0 ? (v - black_) / (1 - black_) : v * (1 + black_) - black_;
  return std::clamp(v, 0.0, 1.0);
}

}  // namespace askcount::look
