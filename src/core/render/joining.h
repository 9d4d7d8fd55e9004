// SPDX-License-Identifier: GPL-3.0-or-later
// Several frames that make one of the film: blended, brightest, or made by motion.
#pragma once

#include <memory>
#include <vector>

#include "media/frame_buffer.h"
#include "render/decoded.h"
#include "render/film_plan.h"

namespace askcount::render {

/// A frame of the take as one film frame uses it.
struct Layer {
  std::shared_ptr<const Decoded> from;  ///< readable
  FramePlan plan;
  float weight = 1;
};

/// A film frame whose layers are all there.
struct DueFrame {
  Joining joining = Joining::One;
  double share = 0;  ///< of the way from the first layer to the second, for Motion
  std::vector<Layer> layers;
  FramePlan plan;     ///< how what they make together is developed
  bool made = false;  ///< it was not shot: a place between frames, or one that could not be read
  bool shown = true;  ///< it is one of the film's; otherwise it only leaves its trail
};

/// Light at the film's size, four floats a pixel, the last of no meaning: levelled, not yet developed.
struct Light {
  image::Size size;
  std::vector<float, image::Unfilled<float>> four;
  explicit Light(image::Size s)
      : size(s), four(4 * static_cast<size_t>(s.width) * static_cast<size_t>(s.height)) {}
  float* row(int y) { return four.data() + 4 * static_cast<size_t>(y) * static_cast<size_t>(size.width); }
  const float* row(int y) const { return const_cast<Light*>(this)->row(y); }
};

class Resamplings;

/// Draws a frame of one layer onto a film frame. `resamplings` are the film's.
void draw_one(const DueFrame& frame, Resamplings& resamplings, const media::FilmFrame& onto);

/// What the layers of a frame make together (not for One).
std::unique_ptr<Light> joined(const DueFrame& frame, Resamplings& resamplings);

/// Codes what was joined.
void code(const Light& light, const FramePlan& plan, const media::FilmFrame& onto);

/// Light that stays where it was brightest: every frame goes in, in order, and comes out with the trails of
/// those before it.
class BrightTrails {
 public:
  /// The light of a trail is gone, six stops down, after this many frames of the film; kAllFrames for never.
  explicit BrightTrails(long long length);
  /// Takes a frame and leaves it with the trails.
  void pass(Light& light);

 private:
  float fall_;  // what is left from frame to frame
  std::unique_ptr<Light> held_;
};

/// What one picture of many frames shows of each place.
enum class Still { Brightest, Mean };

/// Adds many frames up to one picture.
class StillLight {
 public:
  explicit StillLight(Still kind) : kind_(kind) {}
  void add(const Light& light);
  /// What they make together, developed; one frame at least was added.
  image::Coded16 picture(const FramePlan& plan) const;

 private:
  Still kind_;
  std::unique_ptr<Light> sum_;
  size_t many_ = 0;
};

}  // namespace askcount::render
