// From decoded frame to film frame, against pictures whose answer is known.
#include "cut/resample.h"

#include <cmath>
#include <functional>

#include "cut/encoder.h"
#include "picture/tone.h"
#include "support.h"

namespace askcount::cut {
namespace {

using picture::Picture8;
using picture::Rect;
using picture::Size;

/// A film frame's luma as codes from 0 to 255.
double luma(const FilmFrame& f, int x, int y) {
  return (f.plane[0][y * f.stride[0] + x] - 16) * 255.0 / 219;
}

Picture8 painted(Size size, const std::function<int(int, int, int)>& code) {
  Picture8 p(size);
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x)
      for (int c = 0; c < 3; ++c) p.row(y)[3 * x + c] = static_cast<std::uint8_t>(code(x, y, c));
  return p;
}

TEST(Resampler, AveragesLightAndNotCodes) {
  // Alternating black and white lines have half the light of white: code 188, where averaged codes would say
  // 128.
  const Picture8 lines = painted({128, 128}, [](int, int y, int) { return y % 2 ? 255 : 0; });
  FrameBuffer buffer({32, 32});
  Resampler({128, 128}, {0, 0, 128, 128}, {32, 32}).draw(lines, 1, buffer.film());
  for (const int at : {4, 15, 27}) EXPECT_NEAR(luma(buffer.film(), at, at), 188, 2);
}

TEST(Resampler, KeepsFlatTonesAndColoursAtAnySize) {
  const int rgb[] = {180, 90, 40};
  const Picture8 flat = painted({90, 60}, [&](int, int, int c) { return rgb[c]; });
  for (const Size to : {Size{32, 20}, {90, 60}, {200, 130}, {64, 64}}) {
    FrameBuffer buffer(to);
    Resampler({90, 60}, picture::crop_to_shape({90, 60}, to), to).draw(flat, 1, buffer.film());
    const FilmFrame f = buffer.film();
    const double y = 0.2126 * rgb[0] + 0.7152 * rgb[1] + 0.0722 * rgb[2];
    for (int v = 0; v < to.height; v += 7)
      for (int u = 0; u < to.width; u += 7) EXPECT_NEAR(luma(f, u, v), y, 0.7);
    EXPECT_NEAR((f.plane[1][3] - 128) * 255.0 / 224, (rgb[2] - y) / 1.8556, 0.8);
    EXPECT_NEAR((f.plane[2][3] - 128) * 255.0 / 224, (rgb[0] - y) / 1.5748, 0.8);
  }
}

TEST(Resampler, PutsThingsWhereTheyBelong) {
  // A ramp from left to right in linear light keeps its place whatever the sizes and the part.
  const Size from{300, 200};
  const Picture8 ramp = painted(from, [&](int x, int, int) {
    return static_cast<int>(std::lround(255 * picture::code_of_linear(static_cast<float>(x + 0.5) / 300)));
  });
  for (const Rect part : {Rect{0, 0, 300, 200}, Rect{60, 20, 180, 120}})
    for (const Size to : {Size{90, 60}, {150, 100}, {600, 400}}) {
      FrameBuffer buffer(to);
      Resampler(from, part, to).draw(ramp, 1, buffer.film());
      for (int x = to.width / 10; x < to.width * 9 / 10; x += 11) {
        const double wanted = (part.x + (x + 0.5) * part.width / to.width) / 300;
        EXPECT_NEAR(luma(buffer.film(), x, to.height / 2),
                    255 * picture::code_of_linear(static_cast<float>(wanted)), 2.2)
            << x << " of " << to.width;
      }
    }
}

TEST(Resampler, LeavesNoDarkRimsAroundLamps) {
  const Picture8 lamp =
      painted({240, 160}, [](int x, int y, int) { return std::hypot(x - 120, y - 80) < 6 ? 255 : 20; });
  FrameBuffer buffer({96, 64});
  Resampler({240, 160}, {0, 0, 240, 160}, {96, 64}).draw(lamp, 1, buffer.film());
  for (int y = 0; y < 64; ++y)
    for (int x = 0; x < 96; ++x) EXPECT_GT(luma(buffer.film(), x, y), 18.5);
}

TEST(Resampler, MultipliesLightOnce) {
  const Picture8 flat = painted({60, 40}, [](int, int, int) { return 100; });
  for (const double gain : {0.7, 1.25}) {
    FrameBuffer buffer({60, 40});
    Resampler({60, 40}, {0, 0, 60, 40}, {60, 40}).draw(flat, gain, buffer.film());
    const double wanted =
        255 * picture::code_of_linear(static_cast<float>(gain * picture::linear_of_code_value(100 / 255.0F)));
    EXPECT_NEAR(luma(buffer.film(), 30, 20), wanted, 0.7);
  }
}

}  // namespace
}  // namespace askcount::cut
