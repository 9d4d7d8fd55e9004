// SPDX-License-Identifier: GPL-3.0-or-later
// What a camera wrote about a shot, read and (for the stand-in) written as EXIF.
#pragma once

#include <chrono>
#include <filesystem>
#include <optional>
#include <string>

#include "media/jpeg.h"

namespace askcount::media {

/// The camera's clock as it stood in the file, without a zone.
using CameraTime = std::chrono::sys_time<std::chrono::milliseconds>;

/// Such a time as seconds, for differences.
inline double seconds_of(CameraTime at) {
  return static_cast<double>(at.time_since_epoch().count()) / 1000;
}

/// What is known of one exposure. Absent values were not in the file.
struct ShotInfo {
  std::optional<CameraTime> captured;  ///< start of the exposure by the camera's clock, with sub-seconds
  bool whole_seconds = false;          ///< that time has no sub-seconds: it may be up to a second early
  std::optional<int> zone_min;         ///< minutes its clock was ahead of universal time, where it says so
  std::optional<double> shutter_s;
  std::optional<double> f_number;
  std::optional<double> iso;
  std::string body;
  std::string software;  ///< the program that wrote the file
  std::string lens;
  std::optional<double> focal_mm;
  std::optional<double> focal_35mm;  ///< the focal length that sees as much on 36 × 24 mm, by the diagonal
  std::optional<double> sensor_width_mm;  ///< across the picture as stored
  std::optional<double> bearing_deg;      ///< by the camera's own compass, from north over east
  bool bearing_magnetic = false;          ///< that compass does not know the variation
  image::Size size;                       ///< full size in pixels as stored
  int orientation = 1;                    ///< EXIF 1 to 8
  std::string serial;                     ///< of the body
  std::optional<double> white_k;          ///< of a raw file: the light that the camera took for white
  bool dcf_optional = false;  ///< its colours are of the cameras' wider space where no profile says otherwise
  int stars = 0;              ///< that the camera or the person gave it, 0 to 5
  /// What else was set, as "white balance=auto;stabilisation=1": names in our words, values as the camera
  /// writes them.
  std::string settings;
};

/// Log2 of how much light an exposure lets in and amplifies, in stops: log2(shutter × ISO ÷ f-number²), with
/// the marked values of dials (1/125, f/5.6) taken as the exact thirds of a stop they stand for. Nothing
/// where any of the three is missing.
std::optional<double> exposure_stops(const ShotInfo& info);

/// The same for comparing exposures of one take: what is not recorded (a lens without contacts) counts as
/// always alike. Nothing where neither shutter nor ISO nor f-number is there.
std::optional<double> relative_stops(const ShotInfo& info);

/// Reads what a file of any kind of still says of its shot. A file
/// without EXIF gives an empty ShotInfo with its size; values of 0 and such that make no sense are absent,
/// and shutter and f-number come from their APEX values where nothing else has them. Throws Failed naming the
/// file where it is no picture, BadInput where it is no plain file. Safe from several threads at once.
ShotInfo read_shot_info(const std::filesystem::path& file);

/// The embedded thumbnail's JPEG bytes; empty where there is none. Throws as read_shot_info.
Bytes read_thumbnail(const std::filesystem::path& file);

/// `jpeg` with EXIF for `info` and an embedded thumbnail put in.
Bytes with_metadata(const Bytes& jpeg, const ShotInfo& info, const Bytes& thumbnail);

/// A TIFF or a PNG in memory with what a shot says put into it, beside what it says already. In memory, so
/// that what is written of it goes through one place that notices a full disk. Throws Failed, calling it
/// `name`.
Bytes with_added_metadata(const Bytes& picture, const ShotInfo& info, const std::string& name);

}  // namespace askcount::media
