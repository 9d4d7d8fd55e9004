// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/tone.h"

#include <algorithm>
#include <cmath>

#include "image/shoulder.h"

namespace askcount::image {

float linear_of_code_value(float code) {
  return code <= 0.04045F ? code / 12.92F : std::pow((code + 0.055F) / 1.055F, 2.4F);
}

const std::array<float, 256>& linear_of_code() {
  static const std::array<float, 256> table = [] {
    std::array<float, 256> t{};
    for (int i = 0; i < 256; ++i)
      t[static_cast<size_t>(i)] = linear_of_code_value(static_cast<float>(i) / 255.0F);
    return t;
  }();
  return table;
}

float code_of_linear(float linear) {
  const float x = std::clamp(linear, 0.0F, 1.0F);
  return x <= 0.0031308F ? 12.92F * x : 1.055F * std::pow(x, 1 / 2.4F) - 0.055F;
}

GainCurve::GainCurve(double gain) : gain_(static_cast<float>(gain)) {
  knee_ = std::min(0.8F, 0.85F / gain_);
  over_ = 1 / (1 - knee_);
  top_ = gain_ * knee_;
  bend_ = gain_ * (1 - knee_) / (1 - top_);
}

namespace {

/// The coding over sqrt(x), finely: interpolated from when a frame's own table is made.
const std::vector<float>& plain_codes() {
  static const std::vector<float> codes = [] {
    std::vector<float> t(CodingTable::kSteps + 2);
    for (size_t i = 0; i < t.size(); ++i) {
      const double root = static_cast<double>(i) / CodingTable::kSteps;
      t[i] = 255.0F * code_of_linear(static_cast<float>(root * root));
    }
    return t;
  }();
  return codes;
}

}  // namespace

CodingTable::CodingTable(const GainCurve& curve) : table_(kSteps + 1) {
  fill(curve);
}

CodingTable::CodingTable(const std::function<float(float)>& curve) : table_(kSteps + 1) {
  fill(curve);
}

template <typename Curve>
void CodingTable::fill(const Curve& curve) {
  const std::vector<float>& codes = plain_codes();
  for (int i = 0; i <= kSteps; ++i) {
    const float root = static_cast<float>(i) / kSteps;
    const float at = std::sqrt(std::clamp(curve(root * root), 0.0F, 1.0F)) * kSteps;
    const int low = static_cast<int>(at);
    const float part = at - static_cast<float>(low);
    table_[static_cast<size_t>(i)] =
        codes[static_cast<size_t>(low)] * (1 - part) + codes[static_cast<size_t>(low) + 1] * part;
  }
}

Coded8 coded(Picture picture) {
  if (auto* there = std::get_if<Coded8>(&picture)) return std::move(*there);
  const Linear32 linear = shown_light(std::move(picture));
  Coded8 out(linear.size);
  for (size_t i = 0; i < linear.rgb.size(); ++i)
    out.rgb[i] = static_cast<std::uint8_t>(std::lround(255 * code_of_linear(linear.rgb[i])));
  return out;
}

Linear32 shown_light(Picture picture) {
  Linear32 light = linear(std::move(picture));
  if (light.top <= 1) return light;
  const Shoulder shoulder(light.top);
  for (float& v : light.rgb) v = shoulder(v);
  light.top = 1;
  return light;
}

Linear32 linear(Picture picture) {
  if (auto* there = std::get_if<Linear32>(&picture)) return std::move(*there);
  const auto& codes = std::get<Coded8>(picture);
  Linear32 out(codes.size);
  const std::array<float, 256>& light = linear_of_code();
  for (size_t i = 0; i < codes.rgb.size(); ++i) out.rgb[i] = light[codes.rgb[i]];
  return out;
}

Grey8 grey(const Coded8& picture) {
  Grey8 out(picture.size);
  for (size_t i = 0; i < out.luma.size(); ++i) {
    const std::uint8_t* c = picture.rgb.data() + 3 * i;
    out.luma[i] = static_cast<std::uint8_t>((19595 * c[0] + 38470 * c[1] + 7471 * c[2] + 32768) >> 16);
  }
  return out;
}

}  // namespace askcount::image
