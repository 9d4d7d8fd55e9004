// SPDX-License-Identifier: GPL-3.0-or-later
// All that is done to the light and the colours of one frame, made ready for its rows.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <vector>

#include "image/field.h"
#include "image/tone.h"
#include "render/plan.h"
#include "render/row_loops.h"

namespace askcount::render {

/// The steps, in linear light and in this order: the gain of each part and colour, the veil that is lifted,
/// the colours of the look; then in one table the gain of the whole with held highlights, the look's tones
/// and the sRGB coding; then a table of colours and crispness, on codes. Const once made, for one thread at a
/// time.
class Developing {
 public:
  /// For a picture of `size`.
  /// `top` is the picture's (image::Linear32): what is beyond 1 is bent below it once the gains are on.
  /// `parts` tells which of the steps are done: frames that are joined are lightened one by one, and what
  /// they make together is coded.
  enum class Parts { All, Light, Codes };
  Developing(const FramePlan& plan, image::Size size, float top = 1, Parts parts = Parts::All);

  /// Linear light of row y, four floats a pixel, changed in place.
  void lighten(float* row, int y) const;
  /// A CodingTable's data for each colour.
  std::array<const float*, 3> tables() const;
  /// Codes of a row, before and after crispness needs its neighbours.
  void colour(const Coded& row) const;
  /// How much more contrast the finest detail has; 0 for none.
  float crispness() const { return crispness_; }

 private:
  int width_;
  std::array<float, 4> tint_ = {1, 1, 1, 1};  // gains of the colours where they are not in the tables
  std::optional<image::FieldRows> field_, red_, blue_, lift_;
  float air_ = 0, top_, fade_;
  bool before_ = false, mixes_ = false;  // whether anything happens before the tables
  Mix mix_{};
  std::shared_ptr<const look::Cube> cube_;
  float crispness_ = 0;
  std::vector<std::vector<float>> codings_;
  mutable std::vector<float> gains_, red_gains_, blue_gains_, lift_gains_;
};

}  // namespace askcount::render
