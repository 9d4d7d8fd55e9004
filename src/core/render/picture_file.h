// SPDX-License-Identifier: GPL-3.0-or-later
// Developed pictures as files that editors open.
#pragma once

#include <filesystem>
#include <optional>
#include <string>

#include "image/pixels.h"
#include "media/metadata.h"

namespace askcount::render {

enum class Format { Jpeg, Tiff16, Png16, Exr };

/// "jpg", "tif", "png" or "exr".
std::string ending_of(Format format);
/// The format that the ending of a name asks for: .png, .tif, .tiff or .jpg. Throws BadInput, naming the
/// file, for others.
Format format_named(const std::filesystem::path& file);
/// Bytes a picture of this size takes at most, before anything is written.
std::uintmax_t bytes_at_most(Format format, image::Size size, int quality);

/// Writes a picture of sRGB codes (16 bits a colour): JPEG in 8 bits, TIFF and PNG in 16, all with the sRGB
/// profile and the shot's time and exposure in them; OpenEXR as half floats of scene-linear light with BT.709
/// primaries. `info.software` is the mark it is known by again. Nothing that is there is written over. Throws
/// as TemporaryFile, and Failed naming the file.
void write_picture(const image::Coded16& picture, Format format, int quality, const media::ShotInfo& info,
                   const std::filesystem::path& file);

/// The same for a film's picture, in the format that the name asks for. Throws as format_named() too.
void write_picture(const image::Coded8& picture, const std::filesystem::path& file);

/// The mark of a picture that is there; empty where it has none or cannot be read.
std::string mark_of(const std::filesystem::path& file, Format format);

}  // namespace askcount::render
