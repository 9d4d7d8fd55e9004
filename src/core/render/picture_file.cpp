// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/picture_file.h"

#include <fmt/format.h>
#include <ImfRgbaFile.h>
#include <ImfStandardAttributes.h>
#include <ImfStringAttribute.h>
#include <lcms2.h>
#include <png.h>
#include <tiffio.h>

#include <algorithm>
#include <memory>
#include <string_view>
#include <vector>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/units.h"
#include "image/tone.h"
#include "media/jpeg.h"

namespace askcount::render {
namespace {

using media::Bytes;

Error cannot_write(const std::filesystem::path& file) {
  return failed(say("{} cannot be written.", file.string()), say("Is there room, and may it be written to?"));
}

/// The sRGB profile (IEC 61966-2-1) as a file holds it.
const Bytes& srgb_profile() {
  static const Bytes profile = [] {
    const std::unique_ptr<void, decltype(&cmsCloseProfile)> made(cmsCreate_sRGBProfile(), cmsCloseProfile);
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(made.get(), nullptr, &size);
    Bytes bytes(size);
    cmsSaveProfileToMem(made.get(), bytes.data(), &size);
    return bytes;
  }();
  return profile;
}

/// An APP2 segment with the profile, after the one with the metadata.
Bytes with_profile(const Bytes& jpeg) {
  const Bytes& profile = srgb_profile();
  static constexpr char kName[] = "ICC_PROFILE";
  const size_t first = 2 + 2 + (static_cast<size_t>(jpeg[4]) << 8 | jpeg[5]);  // SOI and the APP1 segment
  const size_t length = profile.size() + sizeof kName + 4;
  Bytes out(jpeg.begin(), jpeg.begin() + static_cast<long>(first));
  for (const size_t b : {size_t{0xFF}, size_t{0xE2}, length >> 8, length & 255})
    out.push_back(static_cast<std::uint8_t>(b));
  out.insert(out.end(), kName, kName + sizeof kName);
  out.insert(out.end(), {1, 1});
  out.insert(out.end(), profile.begin(), profile.end());
  out.insert(out.end(), jpeg.begin() + static_cast<long>(first), jpeg.end());
  return out;
}

std::string_view text_of(const Bytes& bytes) {
  return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

Bytes jpeg_of(const image::Coded16& p, int quality, const media::ShotInfo& info) {
  image::Coded8 eight(p.size);
  for (size_t i = 0; i < p.rgb.size(); ++i) eight.rgb[i] = static_cast<std::uint8_t>((p.rgb[i] + 128) / 257);
  return with_profile(media::with_metadata(media::encode_jpeg(eight, quality), info, {}));
}

void write_tiff(const image::Coded16& p, const std::filesystem::path& path) {
  TIFFSetWarningHandler(nullptr);
  TIFFSetErrorHandler(nullptr);
  const std::unique_ptr<TIFF, decltype(&TIFFClose)> tiff(TIFFOpen(path.c_str(), "w"), TIFFClose);
  if (!tiff) throw cannot_write(path);
  TIFF* t = tiff.get();
  TIFFSetField(t, TIFFTAG_IMAGEWIDTH, p.size.width);
  TIFFSetField(t, TIFFTAG_IMAGELENGTH, p.size.height);
  TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 16);
  TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 3);
  TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
  TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
  constexpr int kDeflate = 8;  // as zip files have it
  TIFFSetField(t, TIFFTAG_COMPRESSION, kDeflate);
  TIFFSetField(t, TIFFTAG_PREDICTOR, PREDICTOR_HORIZONTAL);
  TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, 64);
  TIFFSetField(t, TIFFTAG_ICCPROFILE, static_cast<std::uint32_t>(srgb_profile().size()),
               srgb_profile().data());
  std::vector<std::uint16_t> row(static_cast<size_t>(p.size.width) * 3);  // the predictor works in place
  for (int y = 0; y < p.size.height; ++y) {
    std::copy_n(p.row(y), row.size(), row.data());
    if (TIFFWriteScanline(t, row.data(), static_cast<std::uint32_t>(y), 0) < 0) throw cannot_write(path);
  }
  if (TIFFFlush(t) == 0) throw cannot_write(path);
}

Bytes png_of(const image::Coded16& p, const std::filesystem::path& file) {
  Bytes bytes;
  std::vector<std::uint16_t> row(static_cast<size_t>(p.size.width) * 3);
  png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
  png_infop info = png_create_info_struct(png);
  if (setjmp(png_jmpbuf(png)) != 0) {
    png_destroy_write_struct(&png, &info);
    throw cannot_write(file);
  }
  png_set_write_fn(
      png, &bytes,
      [](png_structp to, png_bytep data, png_size_t length) {
        auto& all = *static_cast<Bytes*>(png_get_io_ptr(to));
        all.insert(all.end(), data, data + length);
      },
      nullptr);
  png_set_IHDR(png, info, static_cast<png_uint_32>(p.size.width), static_cast<png_uint_32>(p.size.height), 16,
               PNG_COLOR_TYPE_RGB, PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
  png_set_iCCP(png, info, "sRGB", PNG_COMPRESSION_TYPE_DEFAULT, srgb_profile().data(),
               static_cast<png_uint_32>(srgb_profile().size()));
  png_set_compression_level(png, 3);
  png_write_info(png, info);
  png_set_swap(png);
  for (int y = 0; y < p.size.height; ++y) {
    std::copy_n(p.row(y), row.size(), row.data());
    png_write_row(png, reinterpret_cast<png_const_bytep>(row.data()));
  }
  png_write_end(png, nullptr);
  png_destroy_write_struct(&png, &info);
  return bytes;
}

void write_exr(const image::Coded16& p, const media::ShotInfo& info, const std::filesystem::path& path) {
  Imf::Header header(p.size.width, p.size.height);
  Imf::addChromaticities(header, Imf::Chromaticities());  // BT.709 and D65
  if (info.shutter_s) Imf::addExpTime(header, static_cast<float>(*info.shutter_s));
  if (info.f_number) Imf::addAperture(header, static_cast<float>(*info.f_number));
  if (info.iso) Imf::addIsoSpeed(header, static_cast<float>(*info.iso));
  header.insert("software", Imf::StringAttribute(info.software));
  std::vector<Imf::Rgba> pixels(static_cast<size_t>(p.size.width) * static_cast<size_t>(p.size.height));
  for (size_t i = 0; i < pixels.size(); ++i) {
    const auto light = [&](size_t c) {
      return image::linear_of_code_value(static_cast<float>(p.rgb[3 * i + c]) / 65535.0F);
    };
    pixels[i] = {light(0), light(1), light(2), 1};
  }
  try {
    Imf::RgbaOutputFile out(path.c_str(), header, Imf::WRITE_RGB);
    out.setFrameBuffer(pixels.data(), 1, static_cast<size_t>(p.size.width));
    out.writePixels(p.size.height);
  } catch (const std::exception&) {
    throw cannot_write(path);
  }
}

}  // namespace

std::string ending_of(Format format) {
  static constexpr const char* kEndings[] = {"jpg", "tif", "png", "exr"};
  return kEndings[static_cast<size_t>(format)];
}

Format format_named(const std::filesystem::path& file) {
  const std::string ending = lowered(file.extension().string());
  if (ending == ".png") return Format::Png16;
  if (ending == ".tif" || ending == ".tiff") return Format::Tiff16;
  if (ending == ".jpg" || ending == ".jpeg") return Format::Jpeg;
  throw bad_input(say("{} is no kind of picture that is written.", file.string()),
                  say("End its name in .png, .tif or .jpg."));
}

std::uintmax_t bytes_at_most(Format format, image::Size size, int quality) {
  const auto pixels = static_cast<std::uintmax_t>(size.width) * static_cast<std::uintmax_t>(size.height);
  if (format == Format::Jpeg) return pixels * (quality > 95 ? 3 : 1) + 20000;
  return pixels * 6 + 20000;
}

void write_picture(const image::Coded16& picture, Format format, int quality, const media::ShotInfo& info,
                   const std::filesystem::path& file) {
  TemporaryFile part({file, FileKind::Frame});
  switch (format) {
    case Format::Jpeg:
      part.fill(text_of(jpeg_of(picture, quality, info)));
      break;
    case Format::Tiff16:
      write_tiff(picture, part.path());
      part.fill(text_of(media::with_added_metadata(media::read_bytes(part.path()), info, file.string())));
      break;
    case Format::Png16:
      part.fill(text_of(media::with_added_metadata(png_of(picture, file), info, file.string())));
      break;
    case Format::Exr:
      write_exr(picture, info, part.path());
      break;
  }
  part.put_in_place();
}

void write_picture(const image::Coded8& picture, const std::filesystem::path& file) {
  image::Coded16 fine(picture.size);
  for (size_t i = 0; i < fine.rgb.size(); ++i) fine.rgb[i] = static_cast<std::uint16_t>(picture.rgb[i] * 257);
  constexpr int kQuality = 95;
  write_picture(fine, format_named(file), kQuality, {}, file);
}

std::string mark_of(const std::filesystem::path& file, Format format) {
  try {
    if (format != Format::Exr) return media::read_shot_info(file).software;
    const Imf::RgbaInputFile exr(file.c_str());
    const auto* mark = exr.header().findTypedAttribute<Imf::StringAttribute>("software");
    return mark && exr.isComplete() ? mark->value() : "";
  } catch (const std::exception&) {
    return {};
  }
}

}  // namespace askcount::render
