// SPDX-License-Identifier: GPL-3.0-or-later
// What kind of file something on a card is, told by the ending of its name.
#pragma once

#include <filesystem>

namespace askcount::media {

enum class Kind {
  Jpeg,
  Raw,  ///< whatever LibRaw reads, DNG first
  Tiff,
  Png,
  Heif,
  Film,     ///< a video, and a picture of one
  Sidecar,  ///< travels with the picture of the same name
  Other
};

/// The kind of a file by its name; nothing is opened. `walk.mov/000120`, a picture of a film, is of the
/// film's.
Kind kind_of(const std::filesystem::path& file);

/// Whether files of that kind hold one picture each that can be a frame.
bool is_still(Kind kind);

/// The word in JSON: "jpeg", "raw", "tiff", "png", "heif", "film", "sidecar", "other".
const char* kind_word(Kind kind);

}  // namespace askcount::media
