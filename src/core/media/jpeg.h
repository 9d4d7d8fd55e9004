// SPDX-License-Identifier: GPL-3.0-or-later
// Compressed stills: decoding at a scale, and encoding.
#pragma once

#include <filesystem>
#include <span>
#include <string>
#include <vector>

#include "base/error.h"
#include "image/pixels.h"

namespace askcount::media {

using Bytes = std::vector<std::uint8_t, image::Unfilled<std::uint8_t>>;

/// The bytes of a file. Throws Failed naming it, BadInput where it is no plain file.
Bytes read_bytes(const std::filesystem::path& file);

/// The Error for a file, or bytes of that name, that are no whole picture, of whatever kind.
Error unreadable_picture(const std::string& name, const std::string& why);

/// A picture's full size, from its header. `name` is how errors call it. Throws Failed.
image::Size jpeg_size(std::span<const std::uint8_t> bytes, const std::string& name);

/// Eighths of the full size a frame may be decoded at so that its `crop` still has at least the pixels of
/// `film` (8 where it has not): the decoder then does the first part of the scaling. 1 to 8.
int decoding_eighths(const image::RectF& part, image::Size film);

/// `full` at this many eighths, rounded up as the decoder does.
image::Size scaled_size(image::Size full, int eighths);

/// The rows of a decoded picture that are wanted.
struct Rows {
  int first = 0;
  int count = 0;  ///< 0 is all from `first` on
};

/// What colours are taken for where no profile says whose they are.
enum class Unsaid { Srgb, DcfOptional };

/// Decodes `rows` at `eighths` / 8 of the full size; what lies below them is not read at all. Colours of
/// another profile become those of sRGB. Throws Failed naming the picture where what was asked for is damaged
/// or cut short; no half picture is ever returned. Safe from several threads at once.
image::Coded8 decode_jpeg(std::span<const std::uint8_t> bytes, int eighths, const std::string& name,
                          Rows rows = {}, Unsaid unsaid = Unsaid::Srgb);

/// Only its luma, all rows: the colours are not worked out. Throws as decode_jpeg.
image::Grey8 decode_jpeg_grey(std::span<const std::uint8_t> bytes, int eighths, const std::string& name);

/// Compresses with 4:2:2 colour at `quality` 1 to 100.
Bytes encode_jpeg(const image::Coded8& picture, int quality);

}  // namespace askcount::media
