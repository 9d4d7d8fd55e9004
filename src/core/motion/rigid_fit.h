// SPDX-License-Identifier: GPL-3.0-or-later
// Shift and turn fitted to places that were found again, and which of them stand.
#pragma once

#include <opencv2/core/types.hpp>
#include <vector>

namespace askcount::motion {

/// Turned by `turn` radians (clockwise, y goes down) about a middle, then shifted by pixels.
struct RigidFit {
  double dx = 0, dy = 0, turn = 0;
  double share = 0;  ///< of the places that agree; 0 where nothing can be said
  double error = 0;  ///< standard error of the shift, in pixels: what the places leave, by their number

  cv::Point2f of(const cv::Point2f& p, const cv::Point2f& middle) const;
  /// What does `first`, then this.
  RigidFit after(const RigidFit& first) const;
};

/// The shift and turn that most places share: the best of many pairs, then least squares with Tukey's weights
/// (Beaton and Tukey, Technometrics 16, 1974). Nothing (share 0) for fewer than 6 places or where fewer than
/// 6 agree within a pixel.
RigidFit fit_rigid(const std::vector<cv::Point2f>& from, const std::vector<cv::Point2f>& to,
                   const cv::Point2f& middle);

/// Where one place was found in the frames after it was first seen, counted from 1.
struct Track {
  cv::Point2f from;
  struct At {
    size_t frame;
    cv::Point2f place;
  };
  std::vector<At> at;
};

/// Which places belong to what stands.
struct StandingCorners {
  std::vector<bool> stands;
  /// Pixels a frame that even these go on by where nothing stands: the way of the scene, not the camera's.
  cv::Point2f drift{0, 0};
};

/// Tells what stands from what goes on by itself: of the ways that many places share over the `frames`, the
/// one nearest to none at all that at least `least_share` of them have, below `slope` pixels a frame; where
/// there is none, the one most share, and their way is taken off.
StandingCorners standing_corners(const std::vector<Track>& tracks, size_t frames, double least_share,
                                 double slope);

}  // namespace askcount::motion
