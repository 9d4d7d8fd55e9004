// Stills: decoding, metadata, tone and light, against known pictures.
#include "picture/jpeg.h"

#include <cmath>

#include "picture/light.h"
#include "picture/metadata.h"
#include "picture/tone.h"
#include "support.h"

namespace askcount::picture {
namespace {

/// Gradients and edges, so that every mistake of place shows.
Picture8 chart(Size size) {
  Picture8 p(size);
  for (int y = 0; y < size.height; ++y)
    for (int x = 0; x < size.width; ++x) {
      p.row(y)[3 * x] = static_cast<std::uint8_t>(255 * x / size.width);
      p.row(y)[3 * x + 1] = static_cast<std::uint8_t>(255 * y / size.height);
      p.row(y)[3 * x + 2] = static_cast<std::uint8_t>((x / 20 + y / 20) % 2 ? 200 : 40);
    }
  return p;
}

int most_apart(const std::uint8_t* a, const std::uint8_t* b, size_t n) {
  int most = 0;
  for (size_t i = 0; i < n; ++i) most = std::max(most, std::abs(a[i] - b[i]));
  return most;
}

TEST(Jpeg, PartOfItIsThatPartOfTheWhole) {
  const Bytes bytes = encode_jpeg(chart({600, 400}), 95);
  EXPECT_EQ(jpeg_size(bytes, "chart"), (Size{600, 400}));
  for (const int eighths : {1, 2, 3, 4, 8}) {
    const Picture8 whole = decode_jpeg(bytes, eighths, "chart");
    EXPECT_EQ(whole.size, scaled_size({600, 400}, eighths));
    const int first = whole.size.height / 9, count = whole.size.height * 2 / 3;
    const Picture8 part = decode_jpeg(bytes, eighths, "chart", {first, count});
    ASSERT_EQ(part.size, (Size{whole.size.width, count}));
    EXPECT_LE(most_apart(part.row(0), whole.row(first), part.rgb.size()), 6) << eighths << "/8";
  }
}

TEST(Jpeg, ADamagedOneIsNamedAndNeverHalfReturned) {
  Bytes bytes = encode_jpeg(chart({600, 400}), 90);
  const auto fails = [](const Bytes& b) {
    const Error e = test::error_of([&] { decode_jpeg(b, 4, "TERN0042.JPG"); });
    EXPECT_EQ(e.kind(), Error::Kind::Failed);
    EXPECT_NE(std::string(e.what()).find("TERN0042.JPG"), std::string::npos);
  };
  fails({});
  fails(Bytes(500, 7));
  fails(Bytes(bytes.begin(), bytes.begin() + static_cast<long>(bytes.size() / 2)));
  for (size_t i = bytes.size() / 2; i < bytes.size() / 2 + 200; ++i) bytes[i] = 0xFF;
  fails(bytes);
}

TEST(Jpeg, DecodesNoSmallerThanTheFilmAndNoLargerThanNeeded) {
  const auto eighths = [](Size frame, Size film) {
    return decoding_eighths(crop_to_shape(frame, film), film);
  };
  EXPECT_EQ(eighths({6000, 4000}, {1920, 1080}), 3);
  EXPECT_EQ(eighths({6000, 4000}, {3840, 2160}), 6);
  EXPECT_EQ(eighths({6000, 4000}, {640, 360}), 1);
  EXPECT_EQ(eighths({1500, 1000}, {1920, 1080}), 8);
}

TEST(Crop, KeepsTheShapeAndTheMiddle) {
  for (const Size film : {Size{1920, 1080}, {1080, 1920}, {1080, 1080}, {1620, 1080}}) {
    const Rect r = crop_to_shape({6000, 4000}, film);
    EXPECT_NEAR(static_cast<double>(r.width) / r.height, film.shape(), 0.002);
    EXPECT_TRUE(r.width == 6000 || r.height == 4000);
    EXPECT_NEAR(r.x + r.width / 2.0, 3000, 2);
    EXPECT_NEAR(r.y + r.height / 2.0, 2000, 2);
  }
}

TEST(Orientation, TurnsAPictureUpright) {
  const Picture8 p = chart({30, 20});
  EXPECT_EQ(oriented(p, 1).rgb, p.rgb);
  const Picture8 right = oriented(p, 6);  // stored lying on its left side: turned clockwise to stand
  ASSERT_EQ(right.size, (Size{20, 30}));
  EXPECT_EQ(most_apart(right.row(0) + 3 * 19, p.row(0), 3), 0);
  EXPECT_EQ(oriented(oriented(p, 6), 8).rgb, p.rgb);
  EXPECT_EQ(oriented(oriented(p, 3), 3).rgb, p.rgb);
  EXPECT_EQ(oriented(oriented(p, 5), 5).rgb, p.rgb);
}

TEST(Metadata, ComesBackAsItWasWritten) {
  const test::Folder folder;
  ShotInfo info;
  info.captured = CameraTime(std::chrono::milliseconds(1791567270123));
  info.shutter_s = 1 / 125.0;
  info.f_number = 5.6;
  info.iso = 640;
  info.body = "Stand-in 24";
  info.lens = "Stand-in 24 mm";
  info.orientation = 6;
  const Bytes thumbnail = encode_jpeg(chart({160, 107}), 80);
  const Bytes file = with_metadata(encode_jpeg(chart({300, 200}), 90), info, thumbnail);
  std::ofstream(folder / "a.jpg", std::ios::binary)
      .write(reinterpret_cast<const char*>(file.data()), static_cast<long>(file.size()));
  const ShotInfo read = read_shot_info(folder / "a.jpg");
  EXPECT_EQ(read.captured, info.captured);
  EXPECT_NEAR(*read.shutter_s, 0.008, 1e-9);
  EXPECT_NEAR(*read.f_number, 5.6, 1e-9);
  EXPECT_EQ(read.iso, info.iso);
  EXPECT_EQ(read.body, info.body);
  EXPECT_EQ(read.lens, info.lens);
  EXPECT_EQ(read.size, (Size{300, 200}));
  EXPECT_EQ(read.orientation, 6);
  EXPECT_EQ(read_thumbnail(folder / "a.jpg"), thumbnail);
  EXPECT_NEAR(*exposure_stops(read), std::log2(1 / 128.0 * 100 * std::exp2(8 / 3.0) / 100 / std::exp2(5.0)),
              1e-6);
  // An independent reader agrees on the time (the ffmpeg family reads EXIF dates as text).
  const test::Said said =
      test::run("ffprobe -v error -show_frames -show_entries frame_tags " + (folder / "a.jpg").string());
  EXPECT_NE(said.out.find("2026:10:09 17:34:30"), std::string::npos) << said.out;
}

TEST(GainCurve, MultipliesLightAndHoldsWhite) {
  for (const double gain : {0.5, 0.8, 1.0, 1.15, 2.0}) {
    const GainCurve curve(gain);
    EXPECT_NEAR(curve(0.1F), 0.1 * gain, 1e-6);
    EXPECT_NEAR(curve(1.0F), 1, 1e-6);
    float last = -1;
    for (int i = 0; i <= 1000; ++i) {
      const float y = curve(static_cast<float>(i) / 1000);
      EXPECT_GT(y, last);
      EXPECT_LE(y, 1.0F);
      last = y;
    }
  }
  const CodingTable plain{GainCurve(1)};
  for (int code = 0; code < 256; ++code) {
    const double linear = linear_of_code()[static_cast<size_t>(code)];
    EXPECT_NEAR(plain.data()[static_cast<int>(std::sqrt(linear) * CodingTable::kSteps + 0.5)], code, 0.06);
  }
}

TEST(Light, IsWhatThePictureHas) {
  Picture8 half({400, 200});  // left half black, right half mid-grey
  for (int y = 0; y < 200; ++y)
    for (int x = 0; x < 400; ++x)
      for (int c = 0; c < 3; ++c) half.row(y)[3 * x + c] = x < 200 ? 0 : 188;
  const FrameLight light = measure_light(half, {0, 0, 400, 200});
  const double grey = std::pow((188 / 255.0 + 0.055) / 1.055, 2.4);
  EXPECT_NEAR(light.mean, grey / 2, 1e-6);
  EXPECT_NEAR(light.blocks[15], std::log2(grey), 1e-4);
  EXPECT_NEAR(light.blocks[0], -20, 1e-4);
  EXPECT_NEAR(light.mean_after(1.3), light.mean * 1.3, 1e-4);
  EXPECT_NEAR(measure_light(half, {200, 0, 200, 200}).mean, grey, 1e-6);
  // The gain asked for a target gives that target, highlights held and all.
  for (const double wanted : {-0.4, -0.1, 0.2}) {
    const double gain = gain_for(light, light.stops() + wanted);
    EXPECT_NEAR(std::log2(light.mean_after(gain)), light.stops() + wanted, 1e-3);
    const Picture8 changed = with_gain(half, gain);
    EXPECT_NEAR(measure_light(changed, {0, 0, 400, 200}).stops(), light.stops() + wanted, 0.02);
  }
}

}  // namespace
}  // namespace askcount::picture
