// SPDX-License-Identifier: GPL-3.0-or-later
// What is taken out of the camera's path so that the film stands, and what it costs at the edge.
#pragma once

#include <vector>

#include "image/affine.h"
#include "image/pixels.h"
#include "motion/camera_path.h"

namespace askcount::motion {

/// What of the camera's movement a film is to be free of.
enum class Mode {
  None,
  Bumps,  ///< knocks and jumps alone; wind, sinking and what was meant stay
  All,    ///< everything: one standing picture
  Walk    ///< what shakes, about a way that is meant: the camera is carried on
};

/// A path made steady. Plain values.
struct Steadied {
  /// Of each frame: where the scene lies in it against where the film is to show it.
  std::vector<Pose> corrections;
  /// Share of the width that is lost so that no frame's edge is seen: the view is narrower by it.
  double edge = 0;
  /// Root mean square of the shift of the picture's middle from frame to frame, in shares of the frame's
  /// width: as shot, and as the film will have it by what was measured.
  double jitter_before = 0, jitter_after = 0;
  bool operator==(const Steadied&) const = default;
};

/// Works out the corrections for frames of a shape (width ÷ height). `reach` is how many frames to either
/// side a walk is smoothed over.
Steadied steadied(const std::vector<Pose>& path, Mode mode, double shape, int reach = 24);

/// Frames (from 0) at which the camera was knocked: it moved from the frame before by far more than it is
/// used to.
std::vector<size_t> bumps_of(const std::vector<Pose>& path);

}  // namespace askcount::motion
