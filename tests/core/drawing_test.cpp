// From decoded frame to film frame, against pictures whose answer is known.
#include "render/drawing.h"

#include <cmath>
#include <functional>

#include "film/encoder.h"
#include "image/tone.h"
#include "support.h"

namespace askcount::render {
namespace {

using film::FilmFrame;
using film::FrameBuffer;
using image::Coded8;
using image::RectF;
using image::Resampling;
using image::Size;

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
  draw(lines, Resampling({128, 128}, {0, 0, 128, 128}, {32, 32}), {1}, buffer.film());
  for (const int at : {4, 15, 27}) EXPECT_NEAR(luma(buffer.film(), at, at), 188, 2);
}

TEST(Drawing, KeepsFlatTonesAndColoursAtAnySize) {
  const int rgb[] = {180, 90, 40};
  const Coded8 flat = painted({90, 60}, [&](int, int, int c) { return rgb[c]; });
  for (const Size to : {Size{32, 20}, {90, 60}, {200, 130}, {64, 64}}) {
    FrameBuffer buffer(to);
    draw(flat, Resampling({90, 60}, image::in_pixels(image::part_of_shape({90, 60}, to), {90, 60}), to), {1},
         buffer.film());
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
      draw(ramp, Resampling(from, part, to), {1}, buffer.film());
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
  draw(lamp, Resampling({240, 160}, {0, 0, 240, 160}, {96, 64}), {1}, buffer.film());
  for (int y = 0; y < 64; ++y)
    for (int x = 0; x < 96; ++x) EXPECT_GT(luma(buffer.film(), x, y), 18.5);
}

TEST(Drawing, MultipliesLightOnce) {
  const Coded8 flat = painted({60, 40}, [](int, int, int) { return 100; });
  for (const double gain : {0.7, 1.25}) {
    FrameBuffer buffer({60, 40});
    draw(flat, Resampling({60, 40}, {0, 0, 60, 40}, {60, 40}), {gain}, buffer.film());
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
  const Correction correction{1.2};
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
  const Coded8 out = drawn(grey, Resampling(size, {0, 0, 64, 48}, size), {image::Gain(1.3, 1, 0.7)});
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

}  // namespace
}  // namespace askcount::render
