// SPDX-License-Identifier: GPL-3.0-or-later
// Where a picture was taken, by its own words.
#pragma once

#include <filesystem>
#include <optional>

namespace askcount::media {

/// A place on the globe: degrees, north and east positive, and metres above the sea.
struct Position {
  double latitude_deg = 0, longitude_deg = 0, height_m = 0;
};

/// By the receiver in the camera or beside it (GPS in EXIF); nothing where the file does not say it, says
/// what is on no globe, or cannot be read. Safe from several threads at once.
std::optional<Position> read_position(const std::filesystem::path& file);

}  // namespace askcount::media
