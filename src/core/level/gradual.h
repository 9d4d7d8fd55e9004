// SPDX-License-Identifier: GPL-3.0-or-later
// Light that changes over several frames, all over the picture: the sun behind a cloud.
#pragma once

#include <cstddef>
#include <functional>
#include <optional>

namespace askcount::level {

/// Tells such a change from flicker, from the slow course of the light and from a camera that changed its
/// exposure unrecorded (which does so from one frame to the next), and follows it while it lasts.
///
/// It is one where the light a few frames on differs from where it was going by 0.2 stops and six times what
/// it wanders by, without any step from frame to frame that makes most of that.
class GradualChange {
 public:
  /// Frames after one that it is judged with.
  static constexpr size_t kAhead = 6;
  /// Stops of a frame that all the picture shares, without what was recorded; of frames before `count`.
  using Light = std::function<double(size_t)>;

  /// What it changes from frame i − 1 to frame i, in stops; 0 where there is none. Asked for every frame in
  /// turn, with those up to i + kAhead (or all there are) in `light`.
  double step(size_t i, const Light& light, size_t count);

  /// The frame the change under way, or the last one, began with; nothing before the first.
  std::optional<size_t> began() const { return began_; }
  /// The first frame after the last change; 0 before the first.
  size_t ended() const { return ended_; }

 private:
  bool begins(size_t i, double slope, const Light& light, size_t count);

  std::optional<size_t> began_;
  size_t ended_ = 0;
  bool under_way_ = false;
  std::size_t around_ = 0;  // frames to either side that it is followed by
  double trend_ = 0;        // stops a frame that the light was going by when it began
  double steepest_ = 0;     // stops a frame, against the trend; its sign is the change's
};

}  // namespace askcount::level
