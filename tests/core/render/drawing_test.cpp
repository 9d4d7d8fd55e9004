// SPDX-License-Identifier: GPL-3.0-or-later
// From decoded frame to film frame, against pictures whose answer is known.
#include "render/drawing.h"

#include <cmath>
#include <functional>

#include "image/tone.h"
#include "media/encoder.h"
#include "support.h"

namespace askcount::render {
namespace {

using image::Coded8;
using image::RectF;
using image::Resampling;
using image::Size;
using media::FilmFrame;
using media::FrameBuffer;

/// Nothing but a correction.
FramePlan of_gain(const level::Correction& correction) {
  FramePlan plan;
  plan.correction = correction;
  return plan;
}

/// A film frame's luma as codes from 0 to 255.
double luma(const FilmFrame& f, int x, int y) {
  return (f.plane[0][y * f.stride[0] + x] - 16) * 255.0 / 219;
}

Coded8 painted(Size size, const std::function<int(int, int, int)>& code) {
  Coded8 p(size);
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x)
      for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = static_cast<std::uint8_t>(code(x, y, c));
  return p;
}

TEST(Drawing, AveragesLightAndNotCodes) {
  // Alternating black and white lines have half the light of white: code 188, where averaged codes would say
  // 128.
  const Coded8 lines = painted({128, 128}, [](int, int y, int) { return y % 2 ? 255 : 0; });
  FrameBuffer buffer({32, 32});
  draw(lines, Resampling({128, 128}, {0, 0, 128, 128}, {32, 32}), of_gain(1), buffer.film());
  for (const int at : {4, 15, 27}) EXPECT_NEAR(luma(buffer.film(), at, at), 188, 2);
}

TEST(Drawing, KeepsFlatTonesAndColoursAtAnySize) {
  const int rgb[] = {180, 90, 40};
  const Coded8 flat = painted({90, 60}, [&](int, int, int c) { return rgb[c]; });
  for (const Size to : {Size{32, 20}, {90, 60}, {200, 130}, {64, 64}}) {
    FrameBuffer buffer(to);
    draw(flat, Resampling({90, 60}, image::in_pixels(image::part_of_shape({90, 60}, to), {90, 60}), to),
         of_gain(1), buffer.film());
    const FilmFrame f = buffer.film();
    const double y = 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
    for (int v = 0; v < to.height; v += 7)
      for (int u = 0; u < to.width; u += 7) EXPECT_NEAR(luma(f, u, v), y, 0.7);
    EXPECT_NEAR((f.plane[1][3] - 128) * 255.0 / 224, (rgb[2] - y) / 1.8556, 0.8);
    EXPECT_NEAR((f.plane[2][3] - 128) * 255.0 / 224, (rgb[0] - y) / 1.5748, 0.8);
  }
}

TEST(Drawing, PutsThingsWhereTheyBelong) {
  // A ramp from left to right in linear light keeps its place whatever the sizes and the part.
  const Size from{300, 200};
  const Coded8 ramp = painted(from, [&](int x, int, int) {
    return static_cast<int>(std::lround(255 * image::code_of_linear(static_cast<float>(x + 0.5) / 300)));
  });
  for (const RectF part : {RectF{0, 0, 300, 200}, RectF{60, 20, 180, 120}})
    for (const Size to : {Size{90, 60}, {150, 100}, {600, 400}}) {
      FrameBuffer buffer(to);
      draw(ramp, Resampling(from, part, to), of_gain(1), buffer.film());
      for (int x = to.width / 10; x < to.width * 9 / 10; x += 11) {
        const double wanted = (part.x + (x + 0.5) * part.width / to.width) / 300;
        EXPECT_NEAR(luma(buffer.film(), x, to.height / 2),
                    255 * image::code_of_linear(static_cast<float>(wanted)), 2.2)
            << x << " of " << to.width;
      }
    }
}

TEST(Drawing, LeavesNoDarkRimsAroundLamps) {
  const Coded8 lamp =
      painted({240, 160}, [](int x, int y, int) { return std::hypot(x - 120, y - 80) < 6 ? 255 : 20; });
  FrameBuffer buffer({96, 64});
  draw(lamp, Resampling({240, 160}, {0, 0, 240, 160}, {96, 64}), of_gain(1), buffer.film());
  for (int y = 0; y < 64; ++y)
    for (int x = 0; x < 96; ++x) EXPECT_GT(luma(buffer.film(), x, y), 18.5);
}

TEST(Drawing, MultipliesLightOnce) {
  const Coded8 flat = painted({60, 40}, [](int, int, int) { return 100; });
  for (const double gain : {0.7, 1.25}) {
    FrameBuffer buffer({60, 40});
    draw(flat, Resampling({60, 40}, {0, 0, 60, 40}, {60, 40}), of_gain(gain), buffer.film());
    const double wanted =
        255 * image::code_of_linear(static_cast<float>(gain * image::linear_of_code_value(100 / 255.0F)));
    EXPECT_NEAR(luma(buffer.film(), 30, 20), wanted, 0.7);
  }
}

/// Eight bits, ten bits and a picture of the same frame show the same tones; so does linear light going in.
TEST(Drawing, IsOneKernelForEveryWayInAndOut) {
  const Size from{150, 100}, to{96, 64};
  const Coded8 coded = painted(from, [](int x, int y, int c) { return 30 + (x + 2 * y + 40 * c) % 200; });
  image::Linear32 linear(from);
  for (size_t i = 0; i < coded.rgb.size(); ++i) linear.rgb[i] = image::linear_of_code()[coded.rgb[i]];
  const Resampling how(from, {3.5, 2.25, 140, 93.3}, to);
  const FramePlan correction = of_gain(1.2);
  FrameBuffer eight(to), ten(to, 10), of_light(to);
  draw(coded, how, correction, eight.film());
  draw(coded, how, correction, ten.film());
  draw(linear, how, correction, of_light.film());
  const Coded8 picture = drawn(coded, how, correction);
  const FilmFrame a = eight.film(), b = ten.film(), c = of_light.film();
  for (int y = 0; y < to.height; ++y)
    for (int x = 0; x < to.width; ++x) {
      EXPECT_NEAR(b.row<std::uint16_t>(0, y)[x] / 4.0, a.row<std::uint8_t>(0, y)[x], 0.76);
      EXPECT_EQ(c.row<std::uint8_t>(0, y)[x], a.row<std::uint8_t>(0, y)[x]);
      const std::uint8_t* p = picture.row(y) + 3 * x;
      EXPECT_NEAR(luma(a, x, y), 0.2126 * p[0] + 0.7152 * p[1] + 0.0722 * p[2], 1.2);
    }
  for (int plane = 1; plane < 3; ++plane)
    for (int x = 0; x < to.width / 2; ++x)
      EXPECT_NEAR(b.row<std::uint16_t>(plane, 9)[x] / 4.0, a.row<std::uint8_t>(plane, 9)[x], 0.76);
}

TEST(Drawing, GivesEachColourItsOwnGain) {
  const Size size{64, 48};
  image::Linear32 grey(size);
  std::fill(grey.rgb.begin(), grey.rgb.end(), 0.2F);
  const Coded8 out = drawn(grey, Resampling(size, {0, 0, 64, 48}, size), of_gain(image::Gain(1.3, 1, 0.7)));
  for (const int place : {0, 3 * 700}) {
    EXPECT_NEAR(out.rgb[static_cast<size_t>(place)], 255 * image::code_of_linear(0.26F), 0.6);
    EXPECT_NEAR(out.rgb[static_cast<size_t>(place) + 1], 255 * image::code_of_linear(0.2F), 0.6);
    EXPECT_NEAR(out.rgb[static_cast<size_t>(place) + 2], 255 * image::code_of_linear(0.14F), 0.6);
  }
}

TEST(Drawing, TakesNothingFromOutsideThePart) {
  // A white frame around a dark middle: none of it may leak in.
  const Coded8 framed = painted(
      {200, 120}, [](int x, int y, int) { return x < 40 || x >= 160 || y < 20 || y >= 100 ? 255 : 60; });
  for (const Size to : {Size{60, 40}, {240, 160}}) {
    const Coded8 p = drawn(framed, Resampling({200, 120}, {40, 20, 120, 80}, to), {});
    for (const std::uint8_t code : p.rgb) EXPECT_NEAR(code, 60, 1);
  }
}

/// The middle pixel of a flat grey or colour, developed.
std::array<int, 3> developed(const std::array<float, 3>& rgb, const FramePlan& plan) {
  const Size size{64, 48};
  image::Linear32 flat(size);
  for (size_t i = 0; i < flat.rgb.size(); ++i) flat.rgb[i] = rgb[i % 3];
  const Coded8 out = drawn(flat, Resampling(size, {0, 0, 64, 48}, size), plan);
  const std::uint8_t* p = out.row(24) + 96;
  return {p[0], p[1], p[2]};
}

TEST(Developing, AFieldRaisesItsPartOfThePicture) {
  FramePlan plan;
  plan.correction.field.stops[4] = 0.5F;  // one cosine from top to bottom
  const Size size{64, 48};
  image::Linear32 flat(size);
  std::fill(flat.rgb.begin(), flat.rgb.end(), 0.2F);
  const Coded8 out = drawn(flat, Resampling(size, {0, 0, 64, 48}, size), plan);
  for (const int y : {0, 11, 24, 40, 47}) {
    const double stops = plan.correction.field.at(0.3, (y + 0.5) / 48);
    EXPECT_NEAR(out.row(y)[60], 255 * image::code_of_linear(static_cast<float>(0.2 * std::exp2(stops))), 0.7)
        << y;
  }
  EXPECT_GT(out.row(0)[60], out.row(47)[60] + 30);
}

TEST(Developing, AFieldOfAColourChangesThatColourAlone) {
  FramePlan plan;
  plan.correction.red_field.stops[1] = 0.4F;  // one cosine from left to right
  plan.correction.blue_field.stops[0] = -0.3F;
  const Size size{64, 48};
  image::Linear32 flat(size);
  std::fill(flat.rgb.begin(), flat.rgb.end(), 0.2F);
  const Coded8 out = drawn(flat, Resampling(size, {0, 0, 64, 48}, size), plan);
  const auto code = [](double stops) {
    return 255 * image::code_of_linear(static_cast<float>(0.2 * std::exp2(stops)));
  };
  for (const int x : {0, 20, 63}) {
    const std::uint8_t* p = out.row(20) + 3 * x;
    EXPECT_NEAR(p[0], code(plan.correction.red_field.at((x + 0.5) / 64, 0.4)), 0.8) << x;
    EXPECT_NEAR(p[1], code(0), 0.6) << x;
    EXPECT_NEAR(p[2], code(-0.3), 0.6) << x;
  }
}

TEST(Developing, LightBeyondWhiteIsBentBelowItAfterTheGains) {
  const Size size{64, 48};
  const auto shown = [&](float light, double gain) {
    image::Linear32 flat(size);
    flat.top = 4;
    std::fill(flat.rgb.begin(), flat.rgb.end(), light);
    return drawn(flat, Resampling(size, {0, 0, 64, 48}, size), of_gain(image::Gain(gain))).row(24)[96];
  };
  EXPECT_EQ(shown(0.4F, 1), static_cast<int>(std::lround(255 * image::code_of_linear(0.4F))));
  EXPECT_EQ(shown(4, 1), 255);
  EXPECT_LT(shown(1.5F, 1), 253);
  for (const float light : {0.3F, 0.9F, 1.5F, 2.5F})  // a frame twice as bright, halved
    EXPECT_NEAR(shown(light, 1), shown(light * 1.25F, 0.8), 1) << light;
}

TEST(Developing, HoldsWhiteWhateverAPartIsLoweredOrRaisedBy) {
  for (const float stops : {-0.6F, 0.6F}) {
    FramePlan plan;
    plan.correction.field.stops[1] = stops;
    plan.correction.blue_field.stops[2] = stops / 2;
    plan.correction.gain = image::Gain(0.9, 1, 1.1);
    EXPECT_EQ(developed({1, 1, 1}, plan), (std::array<int, 3>{255, 255, 255}));
  }
}

TEST(Developing, AGainAndATintAreTheSameByTablesAndByRows) {
  FramePlan by_tables = of_gain(image::Gain(1.2, 1.1, 0.9)), by_rows = by_tables;
  by_rows.look.warmth_k = 5601;  // a hair: the colours take the other way
  by_rows.as_shot_k = 5600;
  const auto a = developed({0.3F, 0.2F, 0.1F}, by_tables), b = developed({0.3F, 0.2F, 0.1F}, by_rows);
  for (size_t c = 0; c < 3; ++c) EXPECT_NEAR(a[c], b[c], 1);
}

TEST(Developing, WarmthCastAndColourMoveColoursAsTheySay) {
  FramePlan plan;
  plan.look.warmth_k = 7500;
  auto p = developed({0.2F, 0.2F, 0.2F}, plan);
  EXPECT_GT(p[0], p[1] + 5);
  EXPECT_LT(p[2], p[1] - 5);
  plan.look = {};
  plan.look.cast = 0.3;  // to rose
  p = developed({0.2F, 0.2F, 0.2F}, plan);
  EXPECT_LT(p[1], p[0] - 5);
  EXPECT_NEAR(p[0], p[2], 1);
  plan.look = {};
  plan.look.colour = 0;
  p = developed({0.3F, 0.1F, 0.05F}, plan);
  EXPECT_EQ(p[0], p[1]);
  EXPECT_EQ(p[1], p[2]);
  EXPECT_NEAR(p[1], 255 * image::code_of_linear(0.2126F * 0.3F + 0.7152F * 0.1F + 0.0722F * 0.05F), 1);
}

TEST(Developing, HazeIsLiftedOffDistantPartsAndLeavesDarkOnes) {
  // Hazy above, clear below: dark detail everywhere, veiled by 0.3 in the upper half.
  const Size size{160, 120};
  image::Linear32 picture(size);
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x)
      for (int c = 0; c < 3; ++c)
        picture.row(y)[3 * x + c] =
            (y < 60 ? 0.4F : 0.0F) + (y < 60 ? 0.6F : 1.0F) * (x % 8 < 4 ? 0.02F : 0.3F);
  FramePlan plan;
  plan.look.haze = 1;
  plan.correction.veil = image::Veil::of(image::measure_luminance(picture, {0, 0, 160, 120}));
  const Resampling how(size, {0, 0, 160, 120}, size);
  const Coded8 before = drawn(picture, how, {}), after = drawn(picture, how, plan);
  const auto contrast = [](const Coded8& p, int y) { return p.row(y)[3 * 85] - p.row(y)[3 * 81]; };
  EXPECT_GT(contrast(after, 15), 1.6 * contrast(before, 15));
  EXPECT_NEAR(contrast(after, 105), contrast(before, 105), 12);
}

TEST(Developing, CrispnessRaisesTheEdgeAndNotTheTone) {
  const Size size{64, 48};
  const Coded8 edge = painted(size, [](int x, int, int) { return x < 32 ? 80 : 120; });
  FramePlan plan;
  plan.look.crispness = 1;
  const Coded8 out = drawn(edge, Resampling(size, {0, 0, 64, 48}, size), plan);
  EXPECT_EQ(out.row(20)[3 * 10], 80);
  EXPECT_LT(out.row(20)[3 * 31], 70);
  EXPECT_GT(out.row(20)[3 * 32], 130);
  // The last row and the first are there too, and films have the same.
  FrameBuffer buffer(size);
  draw(edge, Resampling(size, {0, 0, 64, 48}, size), plan, buffer.film());
  for (const int y : {0, 23, 47}) {
    EXPECT_EQ(out.row(y)[3 * 31], out.row(20)[3 * 31]);
    EXPECT_NEAR(luma(buffer.film(), 31, y), out.row(y)[3 * 31], 1);
  }
}

TEST(Developing, ATableComesLast) {
  look::Cube swap;  // red and blue change places
  swap.size = 2;
  for (int i = 0; i < 8; ++i)
    for (const int c : {i >> 2 & 1, i >> 1 & 1, i & 1}) swap.rgb.push_back(static_cast<float>(c));
  FramePlan plan;
  plan.look.light = 1;
  plan.cube = std::make_shared<look::Cube>(swap);
  const auto p = developed({0.1F, 0.15F, 0.2F}, plan);
  EXPECT_NEAR(p[0], 255 * image::code_of_linear(0.4F), 1);
  EXPECT_NEAR(p[1], 255 * image::code_of_linear(0.3F), 1);
  EXPECT_NEAR(p[2], 255 * image::code_of_linear(0.2F), 1);
}

}  // namespace
}  // namespace askcount::render
