// Raw files through LibRaw: what they say, the picture embedded in them, and a development.
#pragma once

#include <filesystem>
#include <optional>

#include "source/metadata.h"

namespace askcount::source {

/// What LibRaw reads from a raw file's header: size as stored, orientation, exposure, time in whole seconds,
/// body. Throws Failed naming the file. Safe from several threads at once, like everything here.
ShotInfo read_raw_info(const std::filesystem::path& file);

/// The largest JPEG embedded in a raw file; empty where there is none. `orientation` is what it is to be
/// turned by. Throws Failed naming the file where it is no raw file.
struct EmbeddedPicture {
  Bytes jpeg;
  int orientation = 1;
};
EmbeddedPicture read_embedded(const std::filesystem::path& file);

/// The raw file developed: upright, scene-linear, camera white, primaries of BT.709, white level at 1.0. With
/// `half`, each 2 × 2 of the sensor becomes a pixel and nothing is interpolated. Throws Failed naming the
/// file.
image::Linear32 develop_raw(const std::filesystem::path& file, bool half);

}  // namespace askcount::source
