// SPDX-License-Identifier: GPL-3.0-or-later
// Light beyond white, brought below it for showing.
#pragma once

#include <algorithm>

namespace askcount::image {

/// Leaves light as it is up to 0.8 and bends what is above, so that `top` becomes 1: a hyperbola without a
/// break of slope. With a top of 1 it only cuts off what is outside 0 to 1.
class Shoulder {
 public:
  explicit Shoulder(float top)
      : bends_(top > 1),
        over_(1 / std::max(1e-6F, top - kKnee)),
        bend_(std::max(1.0F, (top - kKnee) / (1 - kKnee))) {}
  float operator()(float light) const {
    if (!bends_) return std::min(1.0F, std::max(0.0F, light));
    const float u = std::min(1.0F, std::max(0.0F, (light - kKnee) * over_));
    return std::min(kKnee, std::max(0.0F, light)) + (1 - kKnee) * bend_ * u / (1 + (bend_ - 1) * u);
  }

 private:
  static constexpr float kKnee = 0.8F;
  bool bends_;
  float over_, bend_;
};

}  // namespace askcount::image
