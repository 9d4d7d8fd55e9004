// SPDX-License-Identifier: GPL-3.0-or-later
// Frames that were not shot, made from two that were: what moved is shown on its way.
#pragma once

#include <memory>

#include "image/pixels.h"

namespace askcount::motion {

/// What moved from one picture to the next, found once for all pictures between them. Dense optical flow both
/// ways (Kroeger and others, "Fast Optical Flow using Dense Inverse Search", 2016), each carried to where it
/// is half done, and the mean of what they show; what one picture covers is taken from the other; where no
/// way fits, both are blended, so that nothing tears. Const once made and safe from several threads.
class Between {
 public:
  /// Two pictures of one size in linear light. They need not be kept.
  Between(const image::Linear32& a, const image::Linear32& b);
  ~Between();
  Between(const Between&) = delete;
  Between& operator=(const Between&) = delete;

  /// The picture at a share of the way, 0 (the first) to 1 (the second).
  image::Linear32 at(double share) const;
  /// Share of the picture where no way fits: it is blended there.
  double blended_share(double share = 0.5) const;

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

}  // namespace askcount::motion
