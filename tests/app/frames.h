// SPDX-License-Identifier: GPL-3.0-or-later
// Frames for the window's tests, as a camera leaves them on a card.
#pragma once

#include "media/jpeg.h"
#include "media/metadata.h"
#include "support.h"

namespace askcount::app {

/// Writes a picture as a frame of a take: captured at `at_ms` by the camera's clock, 1/100 s, f/8, ISO 100.
inline void write_frame(const test::fs::path& file, const image::Coded8& picture, long long at_ms) {
  media::ShotInfo info;
  info.captured = media::CameraTime(std::chrono::milliseconds(at_ms));
  info.shutter_s = 0.01;
  info.f_number = 8;
  info.iso = 100;
  info.size = picture.size;
  test::write(file, media::with_metadata(media::encode_jpeg(picture, 95), info, {}));
}

}  // namespace askcount::app
