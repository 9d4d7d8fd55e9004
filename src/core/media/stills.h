// SPDX-License-Identifier: GPL-3.0-or-later
// TIFF, PNG and HEIF: decoded whole.
#pragma once

#include <filesystem>

#include "image/pixels.h"
#include "media/jpeg.h"

namespace askcount::media {

// All of them: colours of another profile become those of sRGB (BT.709), see ColourProfile.

/// A TIFF of 8 or 16 whole bits or 32 floating ones, grey or RGB, in strips or tiles, as stored (not turned
/// upright). 8 bits stay codes; 16 are taken as sRGB-coded and floats as linear light. Throws Failed naming
/// the file where it is damaged, cut short or of another make.
image::Picture decode_tiff(const std::filesystem::path& file);

/// A PNG of any kind; what is clear in it lies on black. 8 bits and fewer are codes, 16 linear light. Throws
/// as decode_tiff.
image::Picture decode_png(const std::filesystem::path& file);

/// A HEIF's main picture, upright: its own turning is done. Codes of 8 bits. With `small`, its thumbnail
/// where it has one. Throws as decode_tiff.
image::Coded8 decode_heif(const std::filesystem::path& file, bool small = false);

/// What a HEIF says without being decoded: its upright size, and its EXIF block (empty where it has none).
struct HeifHeader {
  image::Size size;
  Bytes exif;
};
/// Throws as decode_tiff.
HeifHeader read_heif_header(const std::filesystem::path& file);

}  // namespace askcount::media
