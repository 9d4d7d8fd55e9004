// SPDX-License-Identifier: GPL-3.0-or-later
// One frame by itself: brightness, detail, and what is kept of it for a while to compare it with others.
#pragma once

#include <memory>
#include <opencv2/core.hpp>
#include <vector>

#include "image/pixels.h"
#include "inspect/measures.h"

namespace askcount::inspect {

/// Pixels across that a frame is looked at with, and that its movement is measured with.
inline constexpr int kLookedWidth = 1400, kStillWidth = 768;

/// Small windows of a picture in the frequency plane, for measuring how it moved.
struct Windows {
  int side = 0;      ///< of each, in pixels; 0 for a picture too small
  cv::Size size;     ///< of the picture they were cut from
  double scale = 1;  ///< pixels of the full frame to one of them
  std::vector<cv::Point2f> middle;
  std::vector<cv::Mat> spectrum;  ///< complex, half the side square: the lower half of the frequencies
  std::vector<float> texture;     ///< standard deviation within each, in codes; 0 where most of it is white
  cv::Mat whole;  ///< the same of all of the picture made kWhole pixels square: for large movements
  static constexpr int kWhole = 128;
};

/// A frame that was seen.
struct Seen {
  Measures measures;
  /// 96 × 64 pixels, log2 of the code in fortieths of a stop: alike in any light up to a constant.
  static constexpr int kSmallAcross = 96, kSmallDown = 64;
  std::vector<std::uint8_t> small;
  std::shared_ptr<const Windows> windows;
};

/// Measures the upright luma of a frame whose full width is `full_width` pixels. Safe from several threads.
Seen see(const image::Grey8& picture, int full_width);

}  // namespace askcount::inspect
