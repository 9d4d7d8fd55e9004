// SPDX-License-Identifier: GPL-3.0-or-later
// The moving thing, cut from the second of two test pictures.
#pragma once

#include <cstdint>
#include <vector>

#include "motion/motion.h"

namespace askcount::motion {

/// Two test pictures, small enough to look at.
struct Pair {
  image::Coded8 first, second;
  image::Size full;                      ///< of the files, turned upright
  double seconds = 0;                    ///< between them
  std::filesystem::path file_a, file_b;  ///< where they were read from
};

/// Reads both, the earlier one first; the time between them from their metadata unless `seconds` is given.
/// Throws as motion_between.
Pair read_pair(const std::filesystem::path& a, const std::filesystem::path& b,
               std::optional<double> seconds = {});

/// The motion between them: found in the small pictures, measured in the full ones. Throws as find_motion,
/// and as FrameSource::read.
Motion motion_of(const Pair& pair);

/// What moved, with how much of each pixel belongs to it.
struct MovingPart {
  image::Coded8 picture;            ///< cut from the second picture
  std::vector<std::uint8_t> alpha;  ///< one a pixel, 255 where it is all the subject
  image::Rect where;                ///< in the second picture, in its pixels
};

/// The largest connected thing that lies in the second picture where `motion` says it went: changed against
/// the first, and alike to what was there before the move. Throws Failed where nothing can be cut out.
MovingPart cut_moving(const Pair& pair, const Motion& motion);

}  // namespace askcount::motion
