// SPDX-License-Identifier: GPL-3.0-or-later
// Whatever a picture does stays with that picture: sizes that make no sense, light beyond all measure.
#include <png.h>
#include <sys/stat.h>
#include <tiffio.h>

#include <array>
#include <cmath>
#include <limits>

#include "cards.h"
#include "image/tone.h"
#include "inspect/store.h"
#include "level/brightness.h"
#include "media/frame_source.h"
#include "media/stills.h"
#include "optics/find.h"
#include "render/develop.h"

namespace askcount::media {
namespace {

namespace fs = std::filesystem;

/// A PNG of one colour that claims a size and holds next to nothing.
std::string claiming_png(std::uint32_t width, std::uint32_t height, unsigned char bits = 8) {
  const auto number = [](std::uint32_t v) {
    return std::string{static_cast<char>(v >> 24), static_cast<char>(v >> 16), static_cast<char>(v >> 8),
                       static_cast<char>(v)};
  };
  const auto chunk = [&](const std::string& name, const std::string& data) {
    std::uint32_t crc = 0xFFFFFFFFU;
    for (const char c : name + data) {
      crc ^= static_cast<unsigned char>(c);
      for (int k = 0; k < 8; ++k) crc = crc & 1 ? crc >> 1 ^ 0xEDB88320U : crc >> 1;
    }
    return number(static_cast<std::uint32_t>(data.size())) + name + data + number(~crc);
  };
  using namespace std::string_literals;
  return "\x89PNG\r\n\x1a\n"s +
         chunk("IHDR", number(width) + number(height) + std::string{static_cast<char>(bits), 2, 0, 0, 0}) +
         chunk("IDAT", "\x78\x9c\x03\x00\x00\x00\x00\x01"s) + chunk("IEND", "");
}

class Bounds : public ::testing::Test {
 protected:
  test::Folder folder_;
};

TEST_F(Bounds, APngThatClaimsMoreThanItHoldsIsRefused) {
  for (const auto& [width, height] :
       {std::pair(1000000U, 1000000U), std::pair(40000U, 40000U), std::pair(4000U, 4000U)})
    for (const unsigned char bits : {static_cast<unsigned char>(8), static_cast<unsigned char>(16)}) {
      test::write(folder_ / "claims.png", claiming_png(width, height, bits));
      EXPECT_EQ(test::error_of([&] { decode_png(folder_ / "claims.png"); }).kind(), Error::Kind::Failed)
          << width;
    }
}

TEST_F(Bounds, NoPictureIsAllocatedBeyondAllMeasure) {
  EXPECT_EQ(test::error_of([] { image::Coded8(image::Size{100000, 100000}); }).kind(), Error::Kind::Failed);
  EXPECT_EQ(test::error_of([] { image::Linear32(image::Size{-1, 10}); }).kind(), Error::Kind::Failed);
  EXPECT_EQ(image::Coded8(image::Size{0, 0}).rgb.size(), 0u);
}

/// One that claims too much among others: it is a frame that cannot be read, and the others are measured.
TEST_F(Bounds, AHostilePictureStaysWithItsFrame) {
  test::write_card({.size = {96, 64}, .frames = 6}, folder_ / "card");
  fs::create_directories(folder_ / "pngs");
  for (int n = 0; n < 24; ++n)
    test::write(folder_ / fmt::format("pngs/F_{:04}.png", n), claiming_png(1000000, 1000000));
  const ingest::Gathered found = ingest::gather(folder_ / "pngs");
  for (const Frame& frame : *found.frames) {
    for (const auto& read : std::vector<std::function<void()>>{
             [&] { any_source().read(frame, {}); }, [&] { any_source().grey(frame, 100); },
             [&] { any_source().small(frame); }, [&] { any_source().preview(frame, {}); }})
      EXPECT_NE(std::string(test::error_of(read).what()).find("F_00"), std::string::npos);
  }
  EXPECT_EQ(test::error_of([&] { level::measure(found.frames, any_source(), {}); }).kind(),
            Error::Kind::Failed);
  EXPECT_EQ(test::error_of([&] { optics::find(found.frames); }).kind(), Error::Kind::Failed)
      << "nothing was looked at";
}

/// The others are developed, whatever room one claims to need.
TEST_F(Bounds, AHostilePictureStaysWithItsFrameAsOthersAreDeveloped) {
  test::write_card({.size = {96, 64}, .frames = 6}, folder_ / "card");
  test::write(folder_ / "card/FLD_0007.png", claiming_png(1000000, 1000000));
  const ingest::Gathered found = ingest::gather(folder_ / "card");
  render::Order order;
  order.folder = folder_ / "pictures";
  const render::Outcome outcome = render::develop(found.frames, any_source(), order);
  EXPECT_EQ(outcome.written, 6);
  ASSERT_EQ(outcome.unreadable.size(), 1u);
  EXPECT_NE(outcome.unreadable[0].find("FLD_0007.png"), std::string::npos) << outcome.unreadable[0];
}

/// A TIFF of floating samples that are no numbers, or beyond all measure.
TEST_F(Bounds, LightThatIsNoNumberIsHeldToSome) {
  const std::array<float, 12> samples = {std::numeric_limits<float>::infinity(),
                                         0.5F,
                                         -0.2F,
                                         std::numeric_limits<float>::quiet_NaN(),
                                         1e30F,
                                         0.25F,
                                         -std::numeric_limits<float>::infinity(),
                                         1,
                                         2,
                                         0,
                                         0,
                                         0};
  const fs::path file = folder_ / "inf.tif";
  TIFF* t = TIFFOpen(file.c_str(), "w");
  ASSERT_TRUE(t);
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, 4);
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, 1);
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 32);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 3);
  TIFFSetField(t, TIFFTAG_SAMPLEFORMAT, SAMPLEFORMAT_IEEEFP);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
  TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, 1);
  ASSERT_GE(TIFFWriteEncodedStrip(t, 0, const_cast<float*>(samples.data()), sizeof samples), 0);
  TIFFClose(t);
  const auto picture = std::get<image::Linear32>(decode_tiff(file));
  for (const float v : picture.rgb) {
    EXPECT_TRUE(std::isfinite(v)) << v;
    EXPECT_GE(v, 0);
  }
  EXPECT_FLOAT_EQ(picture.rgb[1], 0.5F);
  EXPECT_FLOAT_EQ(picture.rgb[3], 0) << "no number is black";
  EXPECT_GT(picture.rgb[0], 1000);
  // And what is made of it is finite.
  const image::Luminance light = level::measure_frame(picture, {});
  EXPECT_TRUE(std::isfinite(light.stops()));
}

/// 16 bits are read where they become light: every sample in its place, first and last.
TEST_F(Bounds, DeepSamplesComeWhole) {
  const image::Size size{37, 23};
  std::vector<png_uint_16> codes(static_cast<size_t>(size.width) * size.height * 3);
  for (size_t i = 0; i < codes.size(); ++i)
    codes[i] = static_cast<png_uint_16>(i * 65535 / (codes.size() - 1));
  png_image png{};
  png.version = PNG_IMAGE_VERSION;
  png.width = static_cast<png_uint_32>(size.width);
  png.height = static_cast<png_uint_32>(size.height);
  png.format = PNG_FORMAT_LINEAR_RGB;
  ASSERT_NE(png_image_write_to_file(&png, (folder_ / "deep.png").c_str(), 0, codes.data(), 0, nullptr), 0);
  const auto picture = std::get<image::Linear32>(decode_png(folder_ / "deep.png"));
  for (size_t i = 0; i < codes.size(); ++i) EXPECT_NEAR(picture.rgb[i], codes[i] / 65535.0, 2e-5) << i;
}

/// A pipe beside the take where its measures lie does not hang anything.
TEST_F(Bounds, APipeWhereMeasuresLieIsRefused) {
  const fs::path store = folder_ / "dusk.frames";
  ASSERT_EQ(::mkfifo(store.c_str(), 0600), 0);
  const auto frames = std::make_shared<const std::vector<Frame>>();
  EXPECT_FALSE(inspect::kept_look(store, frames));
  EXPECT_EQ(test::error_of([&] { inspect::keep_look(store, frames, {}); }).kind(), Error::Kind::BadInput);
}

}  // namespace
}  // namespace askcount::media
