// SPDX-License-Identifier: GPL-3.0-or-later
// Raw files through LibRaw: what they say, the picture embedded in them, and a development.
#pragma once

#include <filesystem>
#include <optional>

#include "media/metadata.h"
#include "media/sensor_care.h"

namespace askcount::media {

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

/// What is wanted of a raw file, as it is stored (not turned).
struct RawWant {
  image::Size at_least;  ///< pixels the part is to have; {} for few
  image::RectF part;     ///< shares of width and height
  const SensorCare* care =
      nullptr;  ///< what is undone before; nothing where the sensor has no mosaic of 2 × 2
};

/// That part developed, no larger than wanted nor than it is: scene-linear, the camera's white, primaries of
/// BT.709 by the sensor's matrix. Where a mosaic has twice as many values as pixels are wanted, each 2 × 2 of
/// the sensor becomes one pixel and nothing is interpolated; otherwise LibRaw interpolates. Highlights are
/// rebuilt where one colour clips, up to `top`: see light_row(). As stored, not turned. Throws Failed
/// naming the file.
image::Linear32 develop_raw(const std::filesystem::path& file, const RawWant& want);

}  // namespace askcount::media
