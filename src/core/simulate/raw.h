// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in camera's raw files: DNG with one colour a pixel, as a sensor gives it.
#pragma once

#include "media/metadata.h"
#include "simulate/camera.h"

namespace askcount::simulate {

/// How one raw file was shot.
struct RawShot {
  ramp::Exposure exposure;
  double error_stops = 0;
  media::CameraTime captured;
  std::uint64_t index = 0;  ///< which of the card's: its noise is its own
};

/// A DNG of what was seen at an exposure: 16-bit samples behind red-green-green-blue filters, black at 512,
/// white at 16383, with the noise of develop(), a colour matrix for its made-up sensor, and the exposure.
/// Written through libtiff to `file`, whole or not at all. Throws Failed naming it.
void write_raw(const image::Linear32& seen, const RawShot& shot, const CameraSettings& settings,
               const std::filesystem::path& file);

}  // namespace askcount::simulate
