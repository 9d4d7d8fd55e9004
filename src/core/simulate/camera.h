// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in camera: what an exposure of a scene looks like in a file.
#pragma once

#include <cstdint>
#include <string>

#include "base/instant.h"
#include "image/pixels.h"
#include "media/metadata.h"
#include "ramp/follow.h"
#include "simulate/flaws.h"

namespace askcount::simulate {

/// The made-up body and lens in every file's metadata.
inline constexpr const char* kBodyName = "Stand-in 24";
/// The stand-in's own mark in the metadata of every picture it makes.
inline constexpr const char* kSoftware = "Ask Count stand-in";
inline constexpr const char* kLensName = "Stand-in 24 mm";
inline constexpr double kLens_mm = 24;  ///< on 36 × 24 mm

/// How the camera treats light besides what its dials say.
struct CameraSettings {
  double aperture_spread_stops = 0.12;  ///< the aperture never closes twice alike: spread of its error
  double noise = 1;                     ///< 1 is a usual sensor, 0 none
  int quality = 90;                     ///< JPEG quality
  std::uint64_t seed = 1;
  Flaws flaws;
  bool operator==(const CameraSettings&) const = default;
};

/// As JSON, and back.
void visit(Fields& fields, CameraSettings& settings);

/// What the aperture was off by at exposure `index`, in stops: normally distributed, the same for the same
/// seed.
double aperture_error(const CameraSettings& settings, std::uint64_t index);

/// Develops what was seen (luminance in cd/m²) at an exposure off by `error_stops`: meter constant K = 12.5,
/// mid-grey at 0.18 of white, photon and read noise by ISO, clipping at white, sRGB coding.
image::Coded8 develop(const image::Linear32& seen, const ramp::Exposure& exposure, double error_stops,
                      const CameraSettings& settings, std::uint64_t index);

/// A hand in front of the lens: what a marker frame shows.
image::Coded8 marker_picture(image::Size size);

/// The camera's file: JPEG with metadata and an embedded thumbnail. `captured` is by the camera's clock.
media::Bytes camera_file(const image::Coded8& picture, const ramp::Exposure& exposure,
                         media::CameraTime captured, const CameraSettings& settings);

}  // namespace askcount::simulate
