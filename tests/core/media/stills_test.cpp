// SPDX-License-Identifier: GPL-3.0-or-later
// Frames of every kind of file: written by other libraries, read by us.
#include "media/stills.h"

#include <libheif/heif.h>
#include <png.h>
#include <tiffio.h>

#include "image/tone.h"
#include "ingest/gather.h"
#include "media/frame_source.h"
#include "media/kind.h"
#include "media/raw.h"
#include "support.h"

namespace askcount::media {
namespace {

namespace fs = std::filesystem;
constexpr int kWidth = 60, kHeight = 40;

/// Code of a pixel: a slope in red, a step in green, the rest in blue.
int code(int x, int y, int c) {
  return c == 0 ? 4 * x : c == 1 ? (y < kHeight / 2 ? 40 : 200) : 128;
}

void write_tiff(const fs::path& file, int bits, int orientation = 1, bool tiled = false) {
  TIFF* t = TIFFOpen(file.c_str(), "w");
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, kWidth);
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, kHeight);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 3);
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, bits);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
  TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  TIFFSetField(t, TIFFTAG_ORIENTATION, orientation);
  TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_LZW);
  const auto put = [bits](std::vector<std::uint8_t>& row, size_t at, int x, int y) {
    for (int c = 0; c < 3; ++c) {
      const int v = x < kWidth && y < kHeight ? code(x, y, c) : 0;
      if (bits == 8)
        row[at * 3 + static_cast<size_t>(c)] = static_cast<std::uint8_t>(v);
      else
        reinterpret_cast<std::uint16_t*>(row.data())[at * 3 + static_cast<size_t>(c)] =
            static_cast<std::uint16_t>(v * 257);
    }
  };
  if (tiled) {
    TIFFSetField(t, TIFFTAG_TILEWIDTH, 32);
    TIFFSetField(t, TIFFTAG_TILELENGTH, 32);
    std::vector<std::uint8_t> tile(32 * 32 * 3 * static_cast<size_t>(bits) / 8);
    for (int y = 0; y < kHeight; y += 32)
      for (int x = 0; x < kWidth; x += 32) {
        for (int r = 0; r < 32; ++r)
          for (int k = 0; k < 32; ++k) put(tile, static_cast<size_t>(r * 32 + k), x + k, y + r);
        TIFFWriteTile(t, tile.data(), static_cast<std::uint32_t>(x), static_cast<std::uint32_t>(y), 0, 0);
      }
  } else {
    std::vector<std::uint8_t> row(static_cast<size_t>(kWidth) * 3 * static_cast<size_t>(bits) / 8);
    for (int y = 0; y < kHeight; ++y) {
      for (int x = 0; x < kWidth; ++x) put(row, static_cast<size_t>(x), x, y);
      TIFFWriteScanline(t, row.data(), static_cast<std::uint32_t>(y), 0);
    }
  }
  TIFFClose(t);
}

/// How far a picture is from the codes it was written with, upright.
double worst(const image::Picture& picture) {
  const image::Coded8 p = image::coded(picture);
  double most = p.size == image::Size{kWidth, kHeight} ? 0 : 1000;
  for (int y = 0; most < 1000 && y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x)
      for (int c = 0; c < 3; ++c)
        most = std::max(most, std::abs(static_cast<double>(p.row(y)[x * 3 + c]) - code(x, y, c)));
  return most;
}

TEST(Stills, ReadsTiffsOfEightAndSixteenBits) {
  const test::Folder folder;
  for (const bool tiled : {false, true})
    for (const int bits : {8, 16}) {
      write_tiff(folder / "x.tif", bits, 1, tiled);
      const image::Picture p = decode_tiff(folder / "x.tif");
      EXPECT_EQ(std::holds_alternative<image::Linear32>(p), bits == 16);
      EXPECT_LE(worst(p), 1) << bits << tiled;
      EXPECT_LE(worst(any_source().read(frame_of(folder / "x.tif"), {{20, 10}, {}}).picture), 1);
    }
  // Turned upright like everybody's.
  write_tiff(folder / "turned.tif", 8, 6);
  const image::Picture turned = any_source().read(frame_of(folder / "turned.tif"), {}).picture;
  EXPECT_EQ(image::size_of(turned), (image::Size{kHeight, kWidth}));
  EXPECT_EQ(image::coded(turned).row(0)[0], code(0, kHeight - 1, 0));
  // Cut short it is no half picture.
  fs::resize_file(folder / "x.tif", fs::file_size(folder / "x.tif") / 2);
  EXPECT_EQ(test::error_of([&] { decode_tiff(folder / "x.tif"); }).kind(), Error::Kind::Failed);
}

TEST(Stills, ReadsPngsOfEightAndSixteenBits) {
  const test::Folder folder;
  std::vector<std::uint8_t> eight;
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x)
      for (int c = 0; c < 3; ++c) eight.push_back(static_cast<std::uint8_t>(code(x, y, c)));
  png_image png{};
  png.version = PNG_IMAGE_VERSION;
  png.width = kWidth;
  png.height = kHeight;
  png.format = PNG_FORMAT_RGB;
  ASSERT_NE(png_image_write_to_file(&png, (folder / "a.png").c_str(), 0, eight.data(), 0, nullptr), 0);
  EXPECT_EQ(worst(decode_png(folder / "a.png")), 0);
  std::vector<png_uint_16> linear;
  for (const std::uint8_t v : eight)
    linear.push_back(static_cast<png_uint_16>(std::lround(65535 * image::linear_of_code()[v])));
  png.format = PNG_FORMAT_LINEAR_RGB;
  ASSERT_NE(png_image_write_to_file(&png, (folder / "b.png").c_str(), 0, linear.data(), 0, nullptr), 0);
  const image::Picture deep = decode_png(folder / "b.png");
  EXPECT_TRUE(std::holds_alternative<image::Linear32>(deep));
  EXPECT_LE(worst(deep), 1);
  fs::resize_file(folder / "a.png", 60);
  EXPECT_EQ(test::error_of([&] { decode_png(folder / "a.png"); }).kind(), Error::Kind::Failed);
}

TEST(Stills, ReadsHeifs) {
  const test::Folder folder;
  heif_context* context = heif_context_alloc();
  heif_encoder* encoder = nullptr;
  ASSERT_EQ(heif_context_get_encoder_for_format(context, heif_compression_HEVC, &encoder).code,
            heif_error_Ok);
  heif_encoder_set_lossy_quality(encoder, 95);
  heif_image* picture = nullptr;
  heif_image_create(kWidth, kHeight, heif_colorspace_RGB, heif_chroma_interleaved_RGB, &picture);
  heif_image_add_plane(picture, heif_channel_interleaved, kWidth, kHeight, 24);
  int stride = 0;
  std::uint8_t* rows = heif_image_get_plane(picture, heif_channel_interleaved, &stride);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x)
      for (int c = 0; c < 3; ++c) rows[y * stride + x * 3 + c] = static_cast<std::uint8_t>(code(x, y, c));
  ASSERT_EQ(heif_context_encode_image(context, picture, encoder, nullptr, nullptr).code, heif_error_Ok);
  heif_context_write_to_file(context, (folder / "a.heic").c_str());
  heif_image_release(picture);
  heif_encoder_release(encoder);
  heif_context_free(context);
  const Frame frame = frame_of(folder / "a.heic");
  ASSERT_TRUE(frame.readable()) << frame.trouble();
  EXPECT_EQ(frame.info().size, (image::Size{kWidth, kHeight}));
  EXPECT_LE(worst(any_source().read(frame, {}).picture), 40) << "compressed";
  EXPECT_EQ(any_source().grey(frame, 0).size, (image::Size{kWidth, kHeight}));
  test::write(folder / "b.heic", std::string("no picture"));
  EXPECT_FALSE(frame_of(folder / "b.heic").readable());
}

TEST(Stills, RawAndJpegOfOneShotAreOneExposure) {
  const test::Folder folder;
  auto order = forecast::shoot_order(test::small_take(12), folder / "card");
  order.raw = true;
  simulate::shoot(order);
  test::write(folder / "card/DCIM/100QUAY/QUAY0220.xmp", std::string("<x/>"));
  const ingest::Gathered g = ingest::gather(folder / "card");
  ASSERT_EQ(g.frames->size(), 12u);
  for (const Frame& f : *g.frames) {
    EXPECT_FALSE(f.main().raw.empty());
    EXPECT_FALSE(f.main().compressed.empty());
  }
  EXPECT_EQ((*g.frames)[2].main().sidecars.size(), 1u);
  // The raw files alone are the same take, a little brighter or darker only by their development.
  for (const Frame& f : *g.frames) fs::remove(f.main().compressed);
  for (const ingest::Dropped& d : g.dropped) fs::remove(d.picture.main().compressed);
  const ingest::Gathered raw = ingest::gather(folder / "card");
  ASSERT_EQ(raw.frames->size(), 12u);
  EXPECT_NEAR(*raw.interval_s, 20, 0.1);
  const Shown half = any_source().read(raw.frames->front(), {{60, 40}, {}}),
              whole = any_source().read(raw.frames->front(), {{200, 130}, {}});
  EXPECT_EQ(image::size_of(half.picture), (image::Size{60, 40})) << "as large as wanted, no larger";
  EXPECT_EQ(image::size_of(whole.picture), (image::Size{200, 133}));
  EXPECT_NEAR(image::measure_luminance(half.picture, {0, 0, 60, 40}).stops(),
              image::measure_luminance(whole.picture, {0, 0, 200, 133}).stops(), 0.05);
}

TEST(Metadata, KnowsLensesWithoutContactsAndWholeSeconds) {
  const test::Folder folder;
  ShotInfo info;
  info.captured = CameraTime(std::chrono::milliseconds(1760000000000));
  info.whole_seconds = true;
  info.shutter_s = 0.5;
  info.iso = 200;
  info.f_number = 0;
  info.stars = 4;
  test::write(folder / "x.jpg", with_metadata(encode_jpeg(image::Coded8({48, 32}), 85), info, {}));
  const ShotInfo read = read_shot_info(folder / "x.jpg");
  EXPECT_TRUE(read.whole_seconds);
  EXPECT_EQ(read.stars, 4);
  EXPECT_FALSE(read.f_number) << "0 is what bodies write of a lens they do not know";
  EXPECT_FALSE(exposure_stops(read));
  ASSERT_TRUE(relative_stops(read));
  EXPECT_NEAR(*relative_stops(read), 0, 0.01);  // 0.5 s at ISO 200
}

TEST(Kind, IsToldByTheEnding) {
  EXPECT_EQ(kind_of("a/B.DNG"), Kind::Raw);
  EXPECT_EQ(kind_of("x.JPeG"), Kind::Jpeg);
  EXPECT_EQ(kind_of("x.tiff"), Kind::Tiff);
  EXPECT_EQ(kind_of("x.heic"), Kind::Heif);
  EXPECT_EQ(kind_of("x.mov"), Kind::Film);
  EXPECT_EQ(kind_of("x.xmp"), Kind::Sidecar);
  EXPECT_EQ(kind_of("jpg"), Kind::Other);
  EXPECT_FALSE(is_still(Kind::Film));
}

}  // namespace
}  // namespace askcount::media
