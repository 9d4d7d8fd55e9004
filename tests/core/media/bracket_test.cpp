// SPDX-License-Identifier: GPL-3.0-or-later
// Several exposures of one shot as one picture, against the light that was put in.
#include "media/bracket.h"

#include <cmath>

#include "image/tone.h"
#include "media/frame_source.h"
#include "media/jpeg.h"
#include "support.h"

namespace askcount::media {
namespace {

using image::Linear32;
using image::Size;

constexpr Size kSize{180, 120};

/// Light of a scene of ten stops: dark on the left, a bright window on the right, with fine detail.
float scene(int x, int y) {
  const double stops = -8 + 10.0 * x / kSize.width;
  return static_cast<float>(std::exp2(stops) * (((x / 6 + y / 6) % 2 == 0) ? 1.0 : 0.7));
}

struct Recipe {
  double stops = 0;
  int shift = 0;          ///< of a shaken hand, pixels
  int walker = -1;        ///< left edge of somebody dark; −1 for nobody
  double noise = 0.0008;  ///< linear
  double recorded_off = 0;
};

BracketPart part(const Recipe& r, unsigned seed = 1) {
  std::mt19937 random(seed + static_cast<unsigned>(100 + 10 * r.stops));
  std::normal_distribution<double> noise(0, r.noise);
  BracketPart p;
  p.picture = Linear32(kSize);
  p.stops = r.stops + r.recorded_off;
  for (int y = 0; y < kSize.height; ++y)
    for (int x = 0; x < kSize.width; ++x) {
      const int at = std::clamp(x + r.shift, 0, kSize.width - 1);
      float light = scene(at, y);
      if (r.walker >= 0 && x >= r.walker && x < r.walker + 18 && y > 40) light = 0.04F;
      const double v = static_cast<double>(light) * std::exp2(r.stops) + noise(random);
      for (int c = 0; c < 3; ++c) p.picture.row(y)[3 * x + c] = static_cast<float>(std::clamp(v, 0.0, 1.0));
    }
  return p;
}

float at(const Linear32& p, int x, int y) {
  return p.row(y)[3 * x + 1];
}

TEST(Bracket, MergedShowsBothEndsInUnitsOfTheMiddle) {
  const Linear32 m = blended({part({0}), part({2}), part({-2})}, 0, Blend::Merged);
  for (const int x : {20, 60, 100, 130})  // below 0.8 the light is what it is
    for (const int y : {20, 60, 100})
      EXPECT_NEAR(std::log2(at(m, x, y) / scene(x, y)), 0, x < 30 ? 0.5 : 0.12) << x;
  // What clips in the middle exposure still has its detail.
  const float a = at(m, 170, 20), b = at(m, 170, 26);
  EXPECT_GT(std::abs(a - b), 0.01F);
  EXPECT_EQ(m.top, 4.0F) << "two stops beyond the middle one's white";
  EXPECT_GT(std::max(a, b), 1.0F);
  EXPECT_LE(std::max(a, b), m.top);
}

TEST(Bracket, MergedHasLessNoiseInTheDarkThanTheMiddle) {
  const auto noise = [](const Linear32& p) {
    double square = 0;
    int n = 0;
    for (int y = 6; y < 114; ++y)
      for (int x = 12; x < 40; ++x)
        square += std::pow(std::log2(std::max(1e-5F, at(p, x, y)) / scene(x, y)), 2), ++n;
    return std::sqrt(square / n);
  };
  const BracketPart middle = part({.noise = 0.002});
  EXPECT_LT(noise(blended({middle, part({.stops = 2, .noise = 0.002}), part({.stops = -2, .noise = 0.002})},
                          0, Blend::Merged)),
            0.6 * noise(middle.picture));
}

TEST(Bracket, AShakenHandIsPutStraight) {
  const Linear32 still =
      image::shown_light(blended({part({0}), part({1.5}), part({-1.5})}, 0, Blend::Merged));
  const Linear32 shaken = image::shown_light(blended(
      {part({0}), part({.stops = 1.5, .shift = 3}), part({.stops = -1.5, .shift = -2})}, 0, Blend::Merged));
  double apart = 0;
  for (int y = 10; y < 110; ++y)
    for (int x = 20; x < 160; ++x) apart += static_cast<double>(std::abs(at(still, x, y) - at(shaken, x, y)));
  EXPECT_LT(apart / (100 * 140), 0.012);
}

TEST(Bracket, WhoWalksThroughIsThereOnceAndWhole) {
  for (const Blend blend : {Blend::Merged, Blend::Fused}) {
    const Linear32 m = blended({part({.stops = 0, .walker = 90}), part({.stops = 1.5, .walker = 118}),
                                part({.stops = -1.5, .walker = 60})},
                               0, blend);
    const Linear32 alone = blended({part({.stops = 0, .walker = 90}), part({.stops = 1.5, .walker = 90}),
                                    part({.stops = -1.5, .walker = 90})},
                                   0, blend);
    double ghost = 0;
    for (int y = 60; y < 110; ++y)
      for (const int x : {64, 70, 122, 128})  // where it stood in the others
        ghost = std::max(ghost, std::abs(static_cast<double>(std::log2(at(m, x, y) / at(alone, x, y)))));
    EXPECT_LT(ghost, 0.35) << static_cast<int>(blend);
  }
}

TEST(Bracket, ARecordThatIsOffIsPutRightByThePictures) {
  const Linear32 right = blended({part({0}), part({2}), part({-2})}, 0, Blend::Merged);
  const Linear32 wrong =
      blended({part({0}), part({.stops = 2, .recorded_off = 0.3}), part({.stops = -2, .recorded_off = -0.3})},
              0, Blend::Merged);
  for (const int x : {40, 90, 140, 170})
    EXPECT_NEAR(std::log2(at(wrong, x, 60) / at(right, x, 60)), 0, 0.05) << x;
}

TEST(Bracket, FusedKeepsDetailAtBothEnds) {
  const Linear32 f = blended({part({0}), part({3}), part({-3})}, 0, Blend::Fused);
  const auto contrast = [](const Linear32& p, int x) {
    return std::abs(image::code_of_linear(at(p, x, 21)) - image::code_of_linear(at(p, x, 27)));
  };
  const Linear32 middle = part({0}).picture;
  EXPECT_GT(contrast(f, 27), 1.5F * contrast(middle, 27));
  EXPECT_GT(contrast(f, 171), contrast(middle, 171) + 0.02F);
}

TEST(Bracket, ATakeOfThemDoesNotFlicker) {
  const test::Folder folder;
  std::vector<Frame> list;
  for (int n = 0; n < 24; ++n) {
    std::vector<Exposure> shots;
    for (const double stops : {-2.0, 0.0, 2.0}) {
      const BracketPart p = part({.stops = stops}, static_cast<unsigned>(n));
      image::Coded8 coded(kSize);
      for (size_t i = 0; i < coded.rgb.size(); ++i)
        coded.rgb[i] = static_cast<std::uint8_t>(std::lround(255 * image::code_of_linear(p.picture.rgb[i])));
      const auto file = folder / fmt::format("b{:02}{}.jpg", n, stops);
      test::write(file, encode_jpeg(coded, 95));
      Exposure e;
      e.compressed = file;
      e.info.size = kSize;
      e.info.shutter_s = 0.01 * std::exp2(stops);
      e.info.f_number = 8;
      e.info.iso = 100;
      shots.push_back(e);
    }
    list.emplace_back(shots);
    list.back().blend = Blend::Merged;
  }
  std::vector<double> stops;
  for (const Frame& f : list)
    stops.push_back(level::measure_frame(any_source().read(f, {{180, 120}, {}}).picture, {}).stops());
  EXPECT_LT(level::flicker(stops), 0.003);
  // One exposure that cannot be read costs its own light, not the frame.
  test::write(list[3].exposures[2].compressed, std::string("no picture"));
  EXPECT_NO_THROW(any_source().read(list[3], {{180, 120}, {}}));
}

}  // namespace
}  // namespace askcount::media
