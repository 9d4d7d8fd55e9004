// SPDX-License-Identifier: GPL-3.0-or-later
#include <tiffio.h>

#include <algorithm>
#include <array>
#include <climits>
#include <cmath>
#include <memory>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "image/tone.h"
#include "media/colour_profile.h"
#include "media/stills.h"

namespace askcount::media {
namespace {

struct CloseTiff {
  void operator()(TIFF* t) const { TIFFClose(t); }
};

constexpr float kMostLight = 65504;  // of a float that is beyond all measure: what half floats hold

/// What TIFFs of ours and other programs' say of their samples.
struct Layout {
  std::uint32_t width = 0, height = 0;
  std::uint16_t bits = 1, samples = 1, format = SAMPLEFORMAT_UINT, planar = PLANARCONFIG_CONTIG,
                photometric = PHOTOMETRIC_MINISBLACK;
  bool plain() const {  // rows that can be taken as they come
    return planar == PLANARCONFIG_CONTIG &&
           (photometric == PHOTOMETRIC_RGB || photometric == PHOTOMETRIC_MINISBLACK) &&
           (bits == 16 || (bits == 32 && format == SAMPLEFORMAT_IEEEFP));
  }
};

Layout layout_of(TIFF* t) {
  Layout l;
  TIFFGetField(t, TIFFTAG_IMAGEWIDTH, &l.width);
  TIFFGetField(t, TIFFTAG_IMAGELENGTH, &l.height);
  TIFFGetFieldDefaulted(t, TIFFTAG_BITSPERSAMPLE, &l.bits);
  TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLESPERPIXEL, &l.samples);
  TIFFGetFieldDefaulted(t, TIFFTAG_SAMPLEFORMAT, &l.format);
  TIFFGetFieldDefaulted(t, TIFFTAG_PLANARCONFIG, &l.planar);
  TIFFGetField(t, TIFFTAG_PHOTOMETRIC, &l.photometric);
  return l;
}

const std::array<float, 65536>& linear_of_16() {
  static const auto table = [] {
    auto t = std::make_unique<std::array<float, 65536>>();
    for (size_t i = 0; i < t->size(); ++i)
      (*t)[i] = image::linear_of_code_value(static_cast<float>(i) / 65535.0F);
    return t;
  }();
  return *table;
}

using TiffProfile = std::shared_ptr<const ColourProfile>;

TiffProfile profile_of(TIFF* t) {
  std::uint32_t length = 0;
  const std::uint8_t* icc = nullptr;
  if (TIFFGetField(t, TIFFTAG_ICCPROFILE, &length, &icc) == 0) return {};
  return ColourProfile::of({icc, length});
}

/// A floating sample: neither below nothing nor beyond all measure; what is no number is black.
float light_of(float sample) {
  return std::isnan(sample) ? 0.0F : std::clamp(sample, 0.0F, kMostLight);
}

/// One row or tile row of samples as linear light.
void take_samples(const std::uint8_t* from, const Layout& l, const TiffProfile& profile, std::uint32_t count,
                  float* into) {
  if (profile && l.samples >= 3 && l.bits == 16) {
    const auto* codes = reinterpret_cast<const std::uint16_t*>(from);
    std::vector<std::uint16_t> rgb(size_t{count} * 3);
    for (size_t x = 0; x < count; ++x) std::copy_n(codes + x * l.samples, 3, rgb.data() + 3 * x);
    profile->to_linear(rgb.data(), into, static_cast<int>(count));
    return;
  }
  const std::uint32_t colour = l.samples >= 3 ? 1 : 0;
  for (std::uint32_t x = 0; x < count; ++x)
    for (std::uint32_t c = 0; c < 3; ++c) {
      const size_t at = static_cast<size_t>(x) * l.samples + c * colour;
      into[x * 3 + c] = l.bits == 16 ? linear_of_16()[reinterpret_cast<const std::uint16_t*>(from)[at]]
                                     : light_of(reinterpret_cast<const float*>(from)[at]);
    }
}

image::Linear32 deep(TIFF* t, const Layout& l, const std::filesystem::path& file) {
  const TiffProfile profile = profile_of(t);
  image::Linear32 out(image::Size{static_cast<int>(l.width), static_cast<int>(l.height)});
  if (TIFFIsTiled(t) != 0) {
    std::uint32_t across = 0, down = 0;
    TIFFGetField(t, TIFFTAG_TILEWIDTH, &across);
    TIFFGetField(t, TIFFTAG_TILELENGTH, &down);
    if (across == 0 || down == 0) throw unreadable_picture(file.string(), say("its tiles have no size"));
    Bytes tile(static_cast<size_t>(TIFFTileSize(t)));
    const size_t row = static_cast<size_t>(across) * l.samples * l.bits / 8;
    if (tile.size() < row * down) throw unreadable_picture(file.string(), say("its tiles are too small"));
    for (std::uint32_t y = 0; y < l.height; y += down)
      for (std::uint32_t x = 0; x < l.width; x += across) {
        if (TIFFReadTile(t, tile.data(), x, y, 0, 0) < 0)
          throw unreadable_picture(file.string(), say("it is damaged or cut short"));
        for (std::uint32_t r = 0; r < std::min(down, l.height - y); ++r)
          take_samples(tile.data() + r * row, l, profile, std::min(across, l.width - x),
                       out.row(static_cast<int>(y + r)) + static_cast<size_t>(x) * 3);
      }
    return out;
  }
  Bytes row(std::max(static_cast<size_t>(TIFFScanlineSize(t)),
                     static_cast<size_t>(l.width) * l.samples * l.bits / 8));
  for (std::uint32_t y = 0; y < l.height; ++y) {
    if (TIFFReadScanline(t, row.data(), y, 0) < 0)
      throw unreadable_picture(file.string(), say("it is damaged or cut short"));
    take_samples(row.data(), l, profile, l.width, out.row(static_cast<int>(y)));
  }
  return out;
}

}  // namespace

image::Picture decode_tiff(const std::filesystem::path& file) {
  require_plain_file(file);
  TIFFSetWarningHandler(nullptr);
  TIFFSetErrorHandler(nullptr);
  const std::unique_ptr<TIFF, CloseTiff> tiff(TIFFOpen(file.c_str(), "r"));
  if (!tiff) throw unreadable_picture(file.string(), say("it is not a TIFF"));
  TIFF* t = tiff.get();
  const Layout l = layout_of(t);
  if (l.width == 0 || l.height == 0 || l.width > INT_MAX || l.height > INT_MAX ||
      std::uint64_t{l.width} * l.height > static_cast<std::uint64_t>(image::kMostPixels))
    throw unreadable_picture(file.string(), say("its size makes no sense"));
  if (l.plain()) return deep(t, l, file);
  std::vector<std::uint32_t> rgba(static_cast<size_t>(l.width) * l.height);
  // Stored order: whatever turning it asks for is done with everybody else's.
  std::uint16_t orientation = ORIENTATION_TOPLEFT;
  TIFFGetFieldDefaulted(t, TIFFTAG_ORIENTATION, &orientation);
  if (TIFFReadRGBAImageOriented(t, l.width, l.height, rgba.data(), orientation, 1) == 0)
    throw unreadable_picture(file.string(), say("it is damaged, cut short or of an unusual make"));
  image::Coded8 out(image::Size{static_cast<int>(l.width), static_cast<int>(l.height)});
  for (size_t i = 0; i < rgba.size(); ++i) {
    out.rgb[3 * i] = static_cast<std::uint8_t>(TIFFGetR(rgba[i]));
    out.rgb[3 * i + 1] = static_cast<std::uint8_t>(TIFFGetG(rgba[i]));
    out.rgb[3 * i + 2] = static_cast<std::uint8_t>(TIFFGetB(rgba[i]));
  }
  if (const TiffProfile profile = profile_of(t)) profile->to_srgb(out);
  return out;
}

}  // namespace askcount::media
