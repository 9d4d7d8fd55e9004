// SPDX-License-Identifier: GPL-3.0-or-later
// A picture taken at the place, and where the camera looked when it was taken.
#pragma once

#include <filesystem>
#include <optional>

#include "image/pixels.h"
#include "media/metadata.h"
#include "sky/framing.h"

namespace askcount::skyline {

/// What a picture shows of the world: its lens and the aim of its middle. Optics are those of the upright
/// picture, all of it; see optics_for().
struct View {
  sky::Optics optics;
  sky::Aim aim;
  bool operator==(const View&) const = default;
};

/// A picture to look out through.
struct Photograph {
  image::Coded8 picture;  ///< upright, no wider or taller than asked for
  media::ShotInfo info;
  image::Size full;  ///< upright
};

/// Reads a JPEG small. Throws Failed naming the file where it is no picture, BadInput where it is no plain
/// file.
Photograph read_photograph(const std::filesystem::path& file, int longest_side);

/// The optics of an upright picture: by the focal length on 36 × 24 mm where its file says one (by the
/// diagonal), else by focal length and sensor, the sensor as its file or `body` (across the long side) says.
/// Nothing where the focal length is not in the file.
std::optional<sky::Optics> optics_for(const media::ShotInfo& info, image::Size upright,
                                      double body_long_side_mm);
/// The same with a focal length that a person says, on a sensor so wide across its long side.
sky::Optics optics_for(double focal_mm, double long_side_mm, image::Size upright);

/// Where the brightest small light of a picture is: the sun, or by night the moon. Nothing where nothing in
/// it is nearly white, or what is covers more than a twentieth of it.
std::optional<sky::FramePoint> find_light(const image::Coded8& picture);

/// The aim at which a direction falls onto a place of the frame, for a camera rolled by `roll_deg`. Throws
/// BadInput where no tilt does that.
sky::Aim aim_by(const sky::Direction& known, const sky::FramePoint& at, const sky::Optics& optics,
                double roll_deg = 0);

/// The bearing of the frame's middle when a place of the frame lies in bearing `known_deg`, at a tilt and
/// roll.
double bearing_by(double known_deg, const sky::FramePoint& at, const sky::Optics& optics, double tilt_deg,
                  double roll_deg = 0);

/// A compass's bearing against true north: the variation is east positive.
double true_bearing(double compass_deg, double variation_deg);

}  // namespace askcount::skyline
