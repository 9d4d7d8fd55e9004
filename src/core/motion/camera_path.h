// SPDX-License-Identifier: GPL-3.0-or-later
// How the camera moved: where the still parts of the scene lie in each frame.
#pragma once

#include <memory>
#include <vector>

#include "base/progress.h"
#include "image/affine.h"
#include "image/pixels.h"
#include "media/frame_source.h"

namespace askcount::motion {

/// Where the scene lies in a frame against where it lay in the first.
struct Pose {
  double dx = 0, dy = 0;  ///< shares of the frame's width, both; to the right and down
  double turn_deg = 0;    ///< clockwise, about the frame's middle
  double held_by = 0;     ///< share of the places looked at that agree; 0 where nothing can be said
  double error = 0;       ///< standard error of the shift, as a share of the width
  bool operator==(const Pose&) const = default;
};

/// Takes a place of the scene as the first frame shows it (pixels of a frame of this size) to where this
/// frame shows it.
image::Affine to_frame(const Pose& pose, image::Size frame);

/// Follows a take frame by frame, in order. Corners of the picture are tracked from a frame that stands for
/// its neighbours (Lucas and Kanade's method in a pyramid, on pictures whose local contrast is made alike, so
/// that light may change); what moves on by itself (clouds, stars, water, people) is told by its steady way
/// against what comes back, and set aside; shift and turn are fitted to the rest by weights that fall off
/// with what does not fit (Tukey). Not safe from several threads at once.
class CameraPath {
 public:
  CameraPath();
  ~CameraPath();
  CameraPath(const CameraPath&) = delete;
  CameraPath& operator=(const CameraPath&) = delete;

  /// A frame made ready to be followed; an empty picture for one that cannot be read. Safe from several
  /// threads at once.
  struct Looked;
  static std::shared_ptr<const Looked> look(const image::Grey8& grey);
  /// The next frame. All are of one size, or it throws Failed.
  void add(const Looked& looked);
  /// The poses of all frames that were added; those of frames that could not be read lie between their
  /// neighbours'.
  std::vector<Pose> finish();

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

/// Pixels across at which frames are looked at: `film_width` tells how fine it must be.
int width_looked_at(int film_width);

/// The path of these frames of a take (by their numbers, from 0, in order), read in parallel. Frames that
/// cannot be read or are set aside lie between their neighbours. Throws Cancelled when stopped.
std::vector<Pose> measure_path(const media::Frames& frames, const std::vector<size_t>& which,
                               const media::FrameSource& source, int film_width, const Work& work = {});

}  // namespace askcount::motion
