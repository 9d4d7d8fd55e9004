// SPDX-License-Identifier: GPL-3.0-or-later
// Frames made between two, against the ones that were left out.
#include "motion/made_frame.h"

#include <cmath>

#include "painted.h"

namespace askcount::motion {
namespace {

image::Linear32 painted(image::Size size, const std::function<double(double, double)>& code) {
  image::Linear32 p(size);
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x)
      for (int c = 0; c < 3; ++c)
        p.row(y)[3 * x + c] =
            image::linear_of_code()[static_cast<size_t>(std::clamp(code(x + 0.5, y + 0.5), 0.0, 255.0))];
  return p;
}

/// How far two pictures are apart, in decibels against a span of one of square roots of light.
double psnr(const image::Linear32& a, const image::Linear32& b) {
  double sum = 0;
  for (size_t i = 0; i < a.rgb.size(); ++i) {
    const double d = std::sqrt(std::max(0.0F, a.rgb[i])) - std::sqrt(std::max(0.0F, b.rgb[i]));
    sum += d * d;
  }
  return -10 * std::log10(sum / static_cast<double>(a.rgb.size()) + 1e-12);
}

image::Linear32 blended(const image::Linear32& a, const image::Linear32& b) {
  image::Linear32 out(a.size);
  for (size_t i = 0; i < a.rgb.size(); ++i) out.rgb[i] = (a.rgb[i] + b.rgb[i]) / 2;
  return out;
}

const image::Size kSize{320, 240};

/// A standing ground over which two things cross, one before the other.
image::Linear32 scene(double at) {
  return painted(kSize, [at](double x, double y) {
    const double a = 60 + 24 * at, b = 230 - 16 * at;
    if (std::hypot(x - a, y - 120) < 26) return 0.8 * test::texture(x - a + 300, y) + 60;
    if (std::abs(x - b) < 22 && std::abs(y - 90) < 40) return 0.6 * test::texture(x - b + 700, y);
    return test::texture(0.5 * x, 0.5 * y);
  });
}

TEST(MadeFrames, WhatMovesIsShownOnItsWay) {
  for (const double at : {0.0, 2.0, 3.0}) {  // 3 to 4: one passes before the other
    const image::Linear32 a = scene(at), b = scene(at + 1), truth = scene(at + 0.5);
    const double made = psnr(Between(a, b).at(0.5), truth), mixed = psnr(blended(a, b), truth);
    EXPECT_GT(made, mixed + 5) << at;
    EXPECT_GT(made, 27) << at;
  }
}

TEST(MadeFrames, AThirdOfTheWayIsAThird) {
  const image::Linear32 a = scene(0), b = scene(1);
  const Between between(a, b);
  EXPECT_GT(psnr(between.at(1 / 3.0), scene(1 / 3.0)), psnr(between.at(0.5), scene(1 / 3.0)) + 2);
  EXPECT_GT(psnr(between.at(0.02), a), 30);
  EXPECT_GT(psnr(between.at(0.98), b), 30);
}

TEST(MadeFrames, WhatStandsStaysAsItIsAndLightIsBetween) {
  const image::Linear32 a = painted(kSize, [](double x, double y) { return test::texture(x, y); });
  image::Linear32 b = a;
  for (float& v : b.rgb) v *= 1.1F;
  const image::Linear32 made = Between(a, b).at(0.5);
  for (size_t i = 0; i < made.rgb.size(); i += 97)
    ASSERT_NEAR(made.rgb[i], 1.05F * a.rgb[i], 0.01F + 0.02F * a.rgb[i]);
}

TEST(MadeFrames, WhereNoWayFitsBothAreBlended) {
  // Two pictures that have nothing to do with each other.
  const image::Linear32 a =
      painted(kSize, [](double x, double y) { return test::texture(x, y) > 128 ? 230 : 20; });
  const image::Linear32 b = painted(
      kSize, [](double x, double y) { return test::texture(y * 1.7 + 900, x * 0.6 - 400) > 128 ? 230 : 20; });
  const Between between(a, b);
  EXPECT_GT(between.blended_share(), 0.1);
  EXPECT_LT(Between(scene(0), scene(1)).blended_share(), 0.02);
}

}  // namespace
}  // namespace askcount::motion
