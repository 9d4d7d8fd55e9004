// SPDX-License-Identifier: GPL-3.0-or-later
// Stills: decoding, metadata, tone and light, against known pictures.
#include "media/jpeg.h"

#include <turbojpeg.h>

#include <cmath>

#include "image/luminance.h"
#include "image/shoulder.h"
#include "image/tone.h"
#include "media/metadata.h"
#include "support.h"

namespace askcount::media {
namespace {

using namespace image;

/// Gradients and edges, so that every mistake of place shows.
Coded8 chart(Size size) {
  Coded8 p(size);
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
    const Coded8 whole = decode_jpeg(bytes, eighths, "chart");
    EXPECT_EQ(whole.size, scaled_size({600, 400}, eighths));
    const int first = whole.size.height / 9, count = whole.size.height * 2 / 3;
    const Coded8 part = decode_jpeg(bytes, eighths, "chart", {first, count});
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

/// A JPEG of four inks, as programs for print write them.
Bytes inks(Size size) {
  std::vector<std::uint8_t> cmyk(static_cast<size_t>(size.width) * static_cast<size_t>(size.height) * 4, 90);
  void* handle = tjInitCompress();
  unsigned char* data = nullptr;
  unsigned long length = 0;
  EXPECT_EQ(tjCompress2(handle, cmyk.data(), size.width, 0, size.height, TJPF_CMYK, &data, &length,
                        TJSAMP_444, 90, 0),
            0);
  const Bytes bytes(data, data + length);
  tjFree(data);
  tjDestroy(handle);
  return bytes;
}

TEST(Jpeg, InksForPrintAreNamedAsSuch) {
  const Bytes bytes = inks({64, 48});
  EXPECT_EQ(jpeg_size(bytes, "PRINT.JPG"), (Size{64, 48}));
  for (const bool grey : {false, true}) {
    const Error e = test::error_of([&] {
      if (grey)
        decode_jpeg_grey(bytes, 8, "PRINT.JPG");
      else
        decode_jpeg(bytes, 8, "PRINT.JPG");
    });
    EXPECT_EQ(e.kind(), Error::Kind::Failed);
    EXPECT_NE(
        std::string(e.what()).find("PRINT.JPG cannot be read as a picture: its colours are inks for print"),
        std::string::npos)
        << e.what();
  }
}

TEST(Jpeg, DecodesNoSmallerThanTheFilmAndNoLargerThanNeeded) {
  const auto eighths = [](Size frame, Size film) {
    return decoding_eighths(in_pixels(part_of_shape(frame, film), frame), film);
  };
  EXPECT_EQ(eighths({6000, 4000}, {1920, 1080}), 3);
  EXPECT_EQ(eighths({6000, 4000}, {3840, 2160}), 6);
  EXPECT_EQ(eighths({6000, 4000}, {640, 360}), 1);
  EXPECT_EQ(eighths({1500, 1000}, {1920, 1080}), 8);
}

TEST(Part, KeepsTheShapeAndTheMiddle) {
  for (const Size film : {Size{1920, 1080}, {1080, 1920}, {1080, 1080}, {1620, 1080}}) {
    const RectF r = in_pixels(part_of_shape({6000, 4000}, film), {6000, 4000});
    EXPECT_NEAR(r.width / r.height, film.shape(), 1e-9);
    EXPECT_TRUE(r.width == 6000 || r.height == 4000);
    EXPECT_NEAR(r.x + r.width / 2.0, 3000, 1e-9);
    EXPECT_NEAR(r.y + r.height / 2.0, 2000, 1e-9);
  }
  EXPECT_EQ(part_of_shape({}, {16, 9}), (RectF{0, 0, 1, 1}));
  EXPECT_EQ(whole_pixels({10.4, 0, 5.2, 300}, {100, 80}), (Rect{10, 0, 6, 80}));
  EXPECT_EQ(whole_pixels({99.9, 99.9, 0.1, 0.1}, {100, 80}), (Rect{99, 79, 1, 1}));
}

TEST(Orientation, TurnsAPictureUpright) {
  const Coded8 p = chart({30, 20});
  EXPECT_EQ(oriented(p, 1).rgb, p.rgb);
  const Coded8 right = oriented(p, 6);  // stored lying on its left side: turned clockwise to stand
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

TEST(Luminance, IsWhatThePictureHas) {
  Coded8 half({400, 200});  // left half black, right half mid-grey
  for (int y = 0; y < 200; ++y)
    for (int x = 0; x < 400; ++x)
      for (int c = 0; c < 3; ++c) half.row(y)[3 * x + c] = x < 200 ? 0 : 188;
  const Luminance light = measure_luminance(half, Rect{0, 0, 400, 200});
  const double grey = std::pow((188 / 255.0 + 0.055) / 1.055, 2.4);
  EXPECT_NEAR(light.mean, grey / 2, 1e-6);
  EXPECT_NEAR(light.parts[15], std::log2(grey), 1e-4);
  EXPECT_NEAR(light.parts[0], -20, 1e-4);
  EXPECT_NEAR(light.mean_after(1.3), light.mean * 1.3, 1e-4);
  EXPECT_NEAR(measure_luminance(half, Rect{200, 0, 200, 200}).mean, grey, 1e-6);
  // The gain asked for a target gives that target, highlights held and all.
  for (const double wanted : {-0.4, -0.1, 0.2}) {
    const double gain = gain_for(light, light.stops() + wanted);
    EXPECT_NEAR(std::log2(light.mean_after(gain)), light.stops() + wanted, 1e-3);
  }
}

TEST(Luminance, TellsTheColourOfPartsThatAreNeitherDarkNorWhite) {
  Linear32 picture({320, 240});
  for (int y = 0; y < 240; ++y)
    for (int x = 0; x < 320; ++x) {
      const float light = x < 20 ? 0.0005F : x >= 300 ? 0.95F : 0.3F;
      float* p = picture.row(y) + 3 * x;
      p[0] = 1.5F * light, p[1] = light, p[2] = 0.5F * light;
    }
  const Luminance light = measure_luminance(picture, Rect{0, 0, 320, 240});
  EXPECT_EQ(light.red[0], Luminance::kUnknown) << "black";
  EXPECT_EQ(light.red[15], Luminance::kUnknown) << "white";
  EXPECT_NEAR(light.red[8], std::log2(1.5), 1e-4);
  EXPECT_NEAR(light.blue[8], -1, 1e-4);
  // A tint changes the colours, and the brightness is what was asked for all the same.
  const Gain gain = gain_for(light, light.stops() - 0.2, Gain(1.1, 1, 0.8));
  EXPECT_NEAR(gain.red / gain.green, 1.1, 1e-9);
  EXPECT_NEAR(gain.blue / gain.green, 0.8, 1e-9);
  EXPECT_NEAR(std::log2(light.mean_after(gain)), light.stops() - 0.2, 2e-3);
}

/// What a coded picture and the same picture as linear light tell of themselves is the same.
TEST(Luminance, IsTheSameOfCodesAndOfLight) {
  const Coded8 coded = chart({320, 200});
  Linear32 linear(coded.size);
  for (size_t i = 0; i < coded.rgb.size(); ++i) linear.rgb[i] = linear_of_code()[coded.rgb[i]];
  const Rect all{0, 0, 320, 200};
  const Luminance a = measure_luminance(coded, all), b = measure_luminance(linear, all);
  EXPECT_NEAR(a.mean, b.mean, 1e-6);
  EXPECT_EQ(a.samples, b.samples);
  for (size_t part = 0; part < a.parts.size(); ++part) EXPECT_NEAR(a.parts[part], b.parts[part], 1e-4);
  for (size_t colour = 0; colour < 3; ++colour) EXPECT_EQ(a.tones[colour].count, b.tones[colour].count);
  for (const double gain : {0.6, 1.0, 1.7}) {
    EXPECT_NEAR(a.mean_after(gain), b.mean_after(gain), 1e-5);
    // Against the curve put on every single pixel.
    const GainCurve curve(gain);
    double sum = 0;
    for (size_t i = 0; i < linear.rgb.size(); i += 3)
      sum += luminance(curve(linear.rgb[i]), curve(linear.rgb[i + 1]), curve(linear.rgb[i + 2]));
    EXPECT_NEAR(a.mean_after(gain) / (sum / a.samples), 1, 8e-4) << gain;
  }
  // Light beyond white is measured as what it is.
  Linear32 bright({32, 24});
  std::fill(bright.rgb.begin(), bright.rgb.end(), 3.0F);
  EXPECT_NEAR(measure_luminance(bright, Rect{0, 0, 32, 24}).mean, 3, 1e-5);
  EXPECT_DOUBLE_EQ(measure_luminance(bright, Rect{0, 0, 32, 24}).clipped(), 1);
  // Where it is bent below white it counts as it is shown, and clips at its own top.
  bright.top = 4;
  const Luminance shown = measure_luminance(bright, Rect{0, 0, 32, 24});
  EXPECT_NEAR(shown.mean, Shoulder(4)(3.0F), 1e-5);
  EXPECT_LT(shown.mean, 1);
  EXPECT_EQ(shown.clipped(), 0);
  EXPECT_NEAR(shown.mean_after(1), shown.mean, 1e-4);
  EXPECT_NEAR(shown.mean_after(0.5), Shoulder(4)(1.5F), 2e-3);
}

TEST(Histogram, CountsInSixteenthsOfAStop) {
  EXPECT_EQ(Histogram::bin_of(1.0F), 16 * Histogram::kPerStop);
  EXPECT_EQ(Histogram::bin_of(0.5F), 15 * Histogram::kPerStop);
  EXPECT_EQ(Histogram::bin_of(0.75F), 15 * Histogram::kPerStop + 8);
  EXPECT_EQ(Histogram::bin_of(0.0F), 0);
  EXPECT_EQ(Histogram::bin_of(-1.0F), 0);
  EXPECT_EQ(Histogram::bin_of(1e9F), Histogram::kBins - 1);
}

/// The one way to ask for a picture: no smaller than wanted, the part where it is said to be, upright.
TEST(CompressedSource, GivesThePartThatIsWanted) {
  const test::Folder folder;
  for (const int orientation : {1, 3, 6, 8, 12}) {
    ShotInfo info;
    info.orientation = orientation;
    test::write(folder / "p.jpg", with_metadata(encode_jpeg(chart({1200, 800}), 95), info, {}));
    const Frame frame = frame_of(folder / "p.jpg");
    const Size full = upright({1200, 800}, orientation);
    const Coded8 whole = oriented(chart({1200, 800}), orientation);
    const Want want{{100, 60}, {0.25, 0.5, 0.5, 0.25}};
    const Shown shown = CompressedSource().read(frame, want);
    const auto& p = std::get<Coded8>(shown.picture);
    EXPECT_GE(shown.part.width, want.at_least.width) << orientation;
    EXPECT_GE(shown.part.height, want.at_least.height) << orientation;
    EXPECT_LE(shown.part.width, full.width * 0.5);
    EXPECT_LE(shown.part.y + shown.part.height, p.size.height + 1e-6);
    // The middle of the part is the middle of that part of the frame.
    const int x = static_cast<int>(shown.part.x + shown.part.width / 2);
    const int y = static_cast<int>(shown.part.y + shown.part.height / 2);
    EXPECT_LE(most_apart(p.row(y) + 3 * x, whole.row(full.height * 5 / 8) + 3 * (full.width / 2), 2), 10)
        << orientation;
  }
  Frame broken = frame_of(folder / "absent.jpg");
  EXPECT_FALSE(broken.readable());
  EXPECT_EQ(test::error_of([&] { CompressedSource().read(broken, {}); }).kind(), Error::Kind::Failed);
}

}  // namespace
}  // namespace askcount::media
