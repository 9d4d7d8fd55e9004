// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures whose files say that their colours are not those of sRGB, written by other libraries.
#include "media/colour_profile.h"

#include <fmt/format.h>
#include <lcms2.h>
#include <libheif/heif.h>
#include <png.h>
#include <tiffio.h>

#include "image/tone.h"
#include "media/frame_source.h"
#include "media/stills.h"
#include "support.h"

namespace askcount::media {
namespace {

namespace fs = std::filesystem;

Bytes saved(cmsHPROFILE profile) {
  cmsUInt32Number size = 0;
  cmsSaveProfileToMem(profile, nullptr, &size);
  Bytes bytes(size);
  cmsSaveProfileToMem(profile, bytes.data(), &size);
  cmsCloseProfile(profile);
  return bytes;
}

/// Greens wider than sRGB's; white the same; coded with a power of 1.8.
Bytes wide_profile() {
  const cmsCIExyY white = {0.3127, 0.3290, 1};
  const cmsCIExyYTRIPLE primaries = {{0.64, 0.33, 1}, {0.21, 0.71, 1}, {0.15, 0.06, 1}};
  cmsToneCurve* power = cmsBuildGamma(nullptr, 1.8);
  cmsToneCurve* curves[] = {power, power, power};
  cmsHPROFILE made = cmsCreateRGBProfile(&white, &primaries, curves);
  cmsFreeToneCurve(power);
  return saved(made);
}

/// A colour of those primaries in those of BT.709, linear, worked out by hand: both have one white, and red
/// and blue in common, so that only green is another mixture. Matrix from the chromaticities (Lindbloom).
std::array<double, 3> by_hand(const std::array<double, 3>& codes, double power) {
  static constexpr double kM[3][3] = {
      {1.39836, -0.39836, 0.00000}, {0.00000, 1.00000, 0.00000}, {0.00000, -0.04293, 1.04293}};
  std::array<double, 3> out{};
  for (size_t r = 0; r < 3; ++r)
    for (size_t c = 0; c < 3; ++c) out[r] += kM[r][c] * std::pow(codes[c] / 255, power);
  return out;
}

constexpr std::array<double, 3> kColour = {150, 130, 90};

image::Coded8 plain_picture() {
  image::Coded8 p({32, 16});
  for (size_t i = 0; i < p.rgb.size(); ++i) p.rgb[i] = static_cast<std::uint8_t>(kColour[i % 3]);
  return p;
}

/// How far the middle of a file as it is read is from what the colour is, in codes of 8 bits.
double off(const fs::path& file, double power) {
  const image::Coded8 p = image::coded(any_source().read(frame_of(file), {{32, 16}, {}}).picture);
  const auto truth = by_hand(kColour, power);
  double most = 0;
  for (size_t c = 0; c < 3; ++c)
    most = std::max(most,
                    std::abs(static_cast<double>(p.row(8)[3 * 16 + c]) -
                             255 * static_cast<double>(image::code_of_linear(static_cast<float>(truth[c])))));
  return most;
}

void write(const fs::path& file, const Bytes& bytes) {
  std::ofstream(file, std::ios::binary)
      .write(reinterpret_cast<const char*>(bytes.data()), static_cast<std::streamsize>(bytes.size()));
}

/// A JPEG with a profile in as many segments as it takes.
Bytes with_icc(const Bytes& jpeg, const Bytes& icc, size_t pieces) {
  Bytes out(jpeg.begin(), jpeg.begin() + 2);
  for (size_t i = 0; i < pieces; ++i) {
    const size_t from = icc.size() * i / pieces, to = icc.size() * (i + 1) / pieces, length = 16 + to - from;
    for (const size_t b : {size_t{0xFF}, size_t{0xE2}, length >> 8, length & 255})
      out.push_back(static_cast<std::uint8_t>(b));
    static constexpr char kName[] = "ICC_PROFILE";
    out.insert(out.end(), kName, kName + sizeof kName);
    out.insert(out.end(), {static_cast<std::uint8_t>(i + 1), static_cast<std::uint8_t>(pieces)});
    out.insert(out.end(), icc.begin() + static_cast<long>(from), icc.begin() + static_cast<long>(to));
  }
  out.insert(out.end(), jpeg.begin() + 2, jpeg.end());
  return out;
}

TEST(ColourProfile, IsHonouredInJpegs) {
  const test::Folder folder;
  const Bytes jpeg = encode_jpeg(plain_picture(), 98);
  write(folder / "one.jpg", with_icc(jpeg, wide_profile(), 1));
  write(folder / "three.jpg", with_icc(jpeg, wide_profile(), 3));
  EXPECT_LE(off(folder / "one.jpg", 1.8), 2.2);
  EXPECT_LE(off(folder / "three.jpg", 1.8), 2.2);
  write(folder / "none.jpg", jpeg);  // without it the colours are others
  EXPECT_GT(off(folder / "none.jpg", 1.8), 8);
}

TEST(ColourProfile, IsHonouredInTiffsPngsAndHeifs) {
  const test::Folder folder;
  const Bytes icc = wide_profile();
  const image::Coded8 p = plain_picture();
  for (const int bits : {8, 16}) {
    TIFF* t = TIFFOpen((folder / fmt::format("{}.tif", bits)).c_str(), "w");
    for (const auto& [tag, v] : {std::pair{TIFFTAG_IMAGEWIDTH, 32},
                                 {TIFFTAG_IMAGELENGTH, 16},
                                 {TIFFTAG_SAMPLESPERPIXEL, 3},
                                 {TIFFTAG_BITSPERSAMPLE, bits},
                                 {TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB}})
      TIFFSetField(t, static_cast<std::uint32_t>(tag), v);
    TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(t, TIFFTAG_ICCPROFILE, static_cast<std::uint32_t>(icc.size()), icc.data());
    std::vector<std::uint16_t> deep(96);
    for (int y = 0; y < 16; ++y) {
      for (size_t i = 0; i < 96; ++i) deep[i] = static_cast<std::uint16_t>(p.row(y)[i] * 257);
      Bytes row(p.row(y), p.row(y) + 96);
      TIFFWriteScanline(t, bits == 8 ? static_cast<void*>(row.data()) : deep.data(),
                        static_cast<std::uint32_t>(y), 0);
    }
    TIFFClose(t);
    EXPECT_LE(off(folder / fmt::format("{}.tif", bits), 1.8), 0.8);

    // Half the PNGs interlaced and with a channel that tells how opaque they are.
    std::FILE* out = std::fopen((folder / fmt::format("{}.png", bits)).c_str(), "wb");
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png_create_info_struct(png);
    png_init_io(png, out);
    png_set_IHDR(png, info, 32, 16, bits, bits == 8 ? PNG_COLOR_TYPE_RGB : PNG_COLOR_TYPE_RGBA,
                 bits == 8 ? PNG_INTERLACE_NONE : PNG_INTERLACE_ADAM7, PNG_COMPRESSION_TYPE_DEFAULT,
                 PNG_FILTER_TYPE_DEFAULT);
    png_set_iCCP(png, info, "wide", PNG_COMPRESSION_TYPE_DEFAULT, icc.data(),
                 static_cast<png_uint_32>(icc.size()));
    png_write_info(png, info);
    png_set_swap(png);
    std::vector<Bytes> rows(16);
    std::vector<png_bytep> places;
    for (int y = 0; y < 16; ++y) {
      Bytes& row = rows[static_cast<size_t>(y)];
      if (bits == 8) {
        row.assign(p.row(y), p.row(y) + 96);
      } else {
        row.resize(32 * 8);
        auto* v = reinterpret_cast<std::uint16_t*>(row.data());
        for (size_t x = 0; x < 32; ++x)
          for (size_t c = 0; c < 4; ++c)
            v[4 * x + c] = c == 3 ? 65535 : static_cast<std::uint16_t>(p.row(y)[3 * x + c] * 257);
      }
      places.push_back(row.data());
    }
    png_write_image(png, places.data());
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    std::fclose(out);
    EXPECT_LE(off(folder / fmt::format("{}.png", bits), 1.8), 0.8) << bits;
    fs::resize_file(folder / fmt::format("{}.png", bits),
                    fs::file_size(folder / fmt::format("{}.png", bits)) - 30);
    EXPECT_EQ(test::error_of([&] { decode_png(folder / fmt::format("{}.png", bits)); }).kind(),
              Error::Kind::Failed);
  }
  heif_context* context = heif_context_alloc();
  heif_encoder* encoder = nullptr;
  if (heif_context_get_encoder_for_format(context, heif_compression_AV1, &encoder).code == heif_error_Ok ||
      heif_context_get_encoder_for_format(context, heif_compression_HEVC, &encoder).code == heif_error_Ok) {
    heif_encoder_set_lossy_quality(encoder, 100);
    heif_image* image = nullptr;
    heif_image_create(32, 16, heif_colorspace_RGB, heif_chroma_interleaved_RGB, &image);
    heif_image_add_plane(image, heif_channel_interleaved, 32, 16, 8);
    int stride = 0;
    std::uint8_t* plane = heif_image_get_plane(image, heif_channel_interleaved, &stride);
    for (int y = 0; y < 16; ++y) std::copy_n(p.row(y), 96, plane + y * stride);
    heif_image_set_raw_color_profile(image, "prof", icc.data(), icc.size());
    heif_context_encode_image(context, image, encoder, nullptr, nullptr);
    heif_context_write_to_file(context, (folder / "a.heic").c_str());
    heif_image_release(image);
    heif_encoder_release(encoder);
    EXPECT_LE(off(folder / "a.heic", 1.8), 3);
  }
  heif_context_free(context);
}

TEST(ColourProfile, TheCamerasOwnWiderSpaceIsToldByItsMetadata) {
  EXPECT_TRUE(ColourProfile::dcf_optional());
  const test::Folder folder;
  write(folder / "_CAM0001.JPG", encode_jpeg(plain_picture(), 98));
  Frame frame = frame_of(folder / "_CAM0001.JPG");
  frame.exposures[0].info.dcf_optional = true;  // as the EXIF of such a file says it
  const image::Coded8 p = image::coded(any_source().read(frame, {{32, 16}, {}}).picture);
  const auto truth = by_hand(kColour, 563.0 / 256);
  for (size_t c = 0; c < 3; ++c)
    EXPECT_NEAR(p.row(8)[48 + c],
                255 * static_cast<double>(image::code_of_linear(static_cast<float>(truth[c]))), 2.2);
}

TEST(ColourProfile, SaysNothingWhereItSaysSrgbOrIsDamaged) {
  EXPECT_FALSE(ColourProfile::of({}));
  EXPECT_FALSE(ColourProfile::of(saved(cmsCreate_sRGBProfile())));
  EXPECT_FALSE(ColourProfile::of(saved(cmsCreateLab4Profile(nullptr))));
  Bytes broken = wide_profile();
  EXPECT_TRUE(ColourProfile::of(broken));
  broken.resize(100);
  EXPECT_FALSE(ColourProfile::of(broken));
}

}  // namespace
}  // namespace askcount::media
