// SPDX-License-Identifier: GPL-3.0-or-later
// Raw files of a camera the stand-in knows nothing of, against the light that was put into them.
#include "media/frame_source.h"
#include "raws.h"

namespace askcount::media {
namespace {

using image::Linear32;
using image::Size;
using Light = std::array<double, 3>;

/// Four fields: grey, brick, blue, dark.
Light field_of(int x, int y, Size size) {
  const bool right = x >= size.width / 2, below = y >= size.height / 2;
  return below ? (right ? Light{0.01, 0.012, 0.015} : Light{0.05, 0.1, 0.4})
               : (right ? Light{0.3, 0.1, 0.05} : Light{0.3, 0.3, 0.3});
}

Linear32 developed(const test::fs::path& file, Size at_least, image::RectF part = {}) {
  return std::get<Linear32>(any_source().read(frame_of(file), {at_least, part}).picture);
}

/// A colour of a picture at a place, as shares of width and height.
Light light_at(const Linear32& p, double x, double y) {
  const float* rgb = p.row(static_cast<int>(y * p.size.height)) + 3 * static_cast<int>(x * p.size.width);
  return {static_cast<double>(rgb[0]), static_cast<double>(rgb[1]), static_cast<double>(rgb[2])};
}

void expect_near(const Light& is, const Light& wanted, double within) {
  for (size_t c = 0; c < 3; ++c) EXPECT_NEAR(is[c], wanted[c], within) << "colour " << c;
}

class RawTest : public testing::Test {
 protected:
  test::fs::path write(const test::RawMake& make, double gain = 1) {
    const auto file = folder_ / ("r" + std::to_string(++count_) + ".dng");
    test::write_raw(file, make, [&](int x, int y) {
      Light l = field_of(x, y, make.size);
      for (double& v : l) v *= gain;
      return l;
    });
    return file;
  }
  test::Folder folder_;
  int count_ = 0;
};

TEST_F(RawTest, ColoursComeThroughTheCamerasMatrixWhateverItsMosaic) {
  for (const std::array<int, 4> pattern :
       {std::array{0, 1, 1, 2}, {1, 0, 2, 1}, {2, 1, 1, 0}, {1, 2, 0, 1}}) {
    test::RawMake make;
    make.pattern = pattern;
    const auto file = write(make);
    for (const Size size : {Size{60, 40}, {120, 80}, {240, 160}}) {  // binned, half, interpolated
      const Linear32 p = developed(file, size);
      ASSERT_EQ(p.size, size);
      expect_near(light_at(p, 0.25, 0.25), {0.3, 0.3, 0.3}, 0.004);
      expect_near(light_at(p, 0.75, 0.25), {0.3, 0.1, 0.05}, 0.004);
      expect_near(light_at(p, 0.25, 0.75), {0.05, 0.1, 0.4}, 0.006);
      expect_near(light_at(p, 0.75, 0.75), {0.01, 0.012, 0.015}, 0.001);
    }
  }
}

TEST_F(RawTest, WhiteIsTheSameInEveryFrameHoweverBright) {
  // Developers that take the brightest value there is for white make flicker of their own.
  for (const double gain : {0.5, 1.0, 2.0, 2.6}) {
    const auto file = write({}, gain);
    for (const Size size : {Size{120, 80}, {240, 160}})
      EXPECT_NEAR(light_at(developed(file, size), 0.25, 0.25)[1], 0.3 * gain, 0.006 * gain) << gain;
  }
}

TEST_F(RawTest, AnotherLightIsWhiteByTheCamerasNeutral) {
  test::RawMake lamp;
  lamp.neutral = {0.71, 1, 0.34};
  const auto file = write(lamp);
  const Light grey = light_at(developed(file, {120, 80}), 0.25, 0.25);
  EXPECT_NEAR(grey[0] / grey[1], 1, 0.01);
  EXPECT_NEAR(grey[2] / grey[1], 1, 0.01);
}

TEST_F(RawTest, HighlightsAreRebuiltToGreyAndShownBelowWhite) {
  test::RawMake make;
  make.size = {200, 40};
  const auto file = folder_ / "sun.dng";
  // A grey that rises over twice the sensor's white.
  test::write_raw(file, make, [](int x, int) {
    const double v = 2.2 * x / 200;
    return Light{v, v, v};
  });
  for (const Size size : {Size{100, 20}, {200, 40}}) {
    const Linear32 p = developed(file, size);
    double last = 0;
    for (double x = 0.15; x < 0.98; x += 0.05) {
      const Light l = light_at(p, x, 0.5);
      EXPECT_NEAR(l[0] / l[1], 1, 0.05) << "no magenta at " << x;
      EXPECT_NEAR(l[2] / l[1], 1, 0.05) << x;
      EXPECT_GE(l[1], last - 0.004) << x;
      EXPECT_LE(l[1], static_cast<double>(p.top)) << x;
      last = l[1];
    }
    EXPECT_GT(light_at(p, 0.8, 0.5)[1], light_at(p, 0.47, 0.5)[1] + 0.02)
        << "there is more above green's white";
    EXPECT_GT(p.top, 1.0F);
    const Linear32 shown = image::shown_light(p);
    for (const float v : shown.rgb) ASSERT_LE(v, 1.0F) << "but not when it is shown";
    EXPECT_GT(light_at(shown, 0.9, 0.5)[1], light_at(shown, 0.5, 0.5)[1] + 0.01);
  }
}

TEST_F(RawTest, PartsAndTurnedFramesLieWhereTheyBelong) {
  const Linear32 part = developed(write({}), {60, 40}, {0.5, 0, 0.5, 0.5});
  EXPECT_EQ(part.size, (Size{60, 40}));
  expect_near(light_at(part, 0.1, 0.1), {0.3, 0.1, 0.05}, 0.005);
  expect_near(light_at(part, 0.9, 0.9), {0.3, 0.1, 0.05}, 0.005);
  test::RawMake turned;
  turned.orientation = 6;  // its left side is up
  const Linear32 tall = developed(write(turned), {40, 60});
  EXPECT_GT(tall.size.height, tall.size.width);
  expect_near(light_at(tall, 0.75, 0.25), {0.3, 0.3, 0.3}, 0.005);
  expect_near(light_at(tall, 0.75, 0.75), {0.3, 0.1, 0.05}, 0.005);
  expect_near(light_at(tall, 0.25, 0.25), {0.05, 0.1, 0.4}, 0.006);
}

TEST_F(RawTest, TellsTheLightThatTheCameraTookForWhite) {
  EXPECT_NEAR(frame_of(write({})).info().white_k.value(), 6504, 60);  // D65
  test::RawMake lamp;
  // What the matrix makes of illuminant A, x 0.4476 y 0.4074.
  const double xyz[3] = {0.4476 / 0.4074, 1, 0.1450 / 0.4074};
  for (size_t c = 0; c < 3; ++c) {
    lamp.neutral[c] = 0;
    for (size_t k = 0; k < 3; ++k) lamp.neutral[c] += test::kRawMatrix[c][k] * xyz[k];
  }
  EXPECT_NEAR(frame_of(write(lamp)).info().white_k.value(), 2856, 30);
}

TEST_F(RawTest, ADamagedOneIsNamed) {
  const auto file = write({});
  test::fs::resize_file(file, test::fs::file_size(file) / 2);
  Frame frame = frame_of(file);
  try {
    if (frame.readable()) any_source().read(frame, {{120, 80}, {}});
    if (frame.readable()) ADD_FAILURE() << "half a picture was given";
  } catch (const Error& e) {
    EXPECT_NE(std::string(e.what()).find(file.filename().string()), std::string::npos);
  }
}

TEST_F(RawTest, AFilmOfThemIsEven) {
  std::mt19937 random(8);
  std::normal_distribution<double> off(0, 0.12);
  const auto card = folder_ / "card";
  test::fs::create_directories(card);
  for (int n = 0; n < 40; ++n) {
    test::RawMake make;
    make.when = fmt::format("2026:09:14 17:{:02}:{:02}", 20 + n / 12, n % 12 * 5);
    const double gain = std::exp2(off(random));
    test::write_raw(card / fmt::format("R_{:04}.dng", n + 1), make, [&](int x, int y) {
      Light l = field_of(x, y, make.size);
      for (double& v : l) v *= gain;
      return l;
    });
  }
  render::FilmOrder order;
  order.output = folder_ / "raw.mp4";
  order.size = {192, 128};
  order.fps = {25, 1};
  order.coding.quality = 5;
  const auto frames = ingest::gather(card).frames;
  ASSERT_EQ(frames->size(), 40u);
  render::render(frames, any_source(), order);
  media::FilmReader film(order.output);
  std::vector<double> stops;
  while (auto p = film.next()) stops.push_back(level::measure_frame(std::move(*p), {}).stops());
  ASSERT_EQ(stops.size(), 40u);
  EXPECT_LT(level::flicker(stops), 0.008) << "flat fields are rounded to whole codes";
}

}  // namespace
}  // namespace askcount::media
