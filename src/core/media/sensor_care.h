// SPDX-License-Identifier: GPL-3.0-or-later
// What a sensor does to every frame of a take by itself: places that are always lit, and what it shows in the
// dark.
#pragma once

#include <filesystem>
#include <memory>
#include <vector>

#include "image/pixels.h"

namespace askcount::media {

/// A place of the sensor, in pixels as stored, from the upper left of what is visible.
struct SensorPlace {
  int x = 0, y = 0;
  bool operator==(const SensorPlace&) const = default;
};

/// A sensor's values, one a pixel, as a file holds them: no light is taken for any yet.
struct SensorValues {
  using Values = std::vector<std::uint16_t, image::Unfilled<std::uint16_t>>;
  image::Size size;
  Values values;    ///< rows from the top without gaps
  float black = 0;  ///< the least of its black levels
  float white = 0;  ///< from here nothing more is told apart

  const std::uint16_t* row(int y) const { return values.data() + static_cast<size_t>(y) * size.width; }
  std::uint16_t* row(int y) { return values.data() + static_cast<size_t>(y) * size.width; }
};

/// What a sensor shows in the dark, above its black level.
using DarkFrame = SensorValues;

/// What is to be undone before a raw file is developed.
struct SensorCare {
  std::vector<SensorPlace> hot;           ///< become the middle of their neighbours of the same colour
  std::shared_ptr<const DarkFrame> dark;  ///< taken off; null for none
  bool none() const { return hot.empty() && !dark; }
};

/// The mosaic of a raw file, without its borders. Throws Failed naming the file where it is damaged or has no
/// mosaic of two by two.
SensorValues read_mosaic(const std::filesystem::path& file);

/// The mean of frames that were shot with the cap on: raw files of one size. A folder stands for all raw
/// files in it. Throws as read_mosaic, and BadInput where sizes differ, there is no raw file, or a frame is
/// not dark: half of it is brighter than a hundredth of white.
DarkFrame read_dark_frame(const std::filesystem::path& file_or_folder);

/// Undoes it in values as read_mosaic gives them, which are `pitch` apart from row to row. What is white
/// stays so; places that the dark frame shows half full become as hot ones do. Places outside do nothing.
/// Throws BadInput where the dark frame is of another size.
void take_care(const SensorCare& care, std::uint16_t* values, size_t pitch, image::Size size, float white);

}  // namespace askcount::media
