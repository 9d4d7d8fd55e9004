// SPDX-License-Identifier: GPL-3.0-or-later
// The frame rate of the film, exact.
#pragma once

#include <string>
#include <string_view>

#include "base/about.h"

namespace askcount {

/// Frames in a second of film as a fraction, so that 24000/1001 stays what it is.
struct FrameRate {
  int num = 25;
  int den = 1;

  double value() const { return static_cast<double>(num) / den; }
  bool operator==(const FrameRate&) const = default;
};

/// Reads "25", "24000/1001", and the usual short names of the exact kind ("23.976", "29.97", "59.94").
/// Throws BadInput for anything that is not between 1 and 1,000 frames a second.
FrameRate parse_frame_rate(std::string_view text, const Called& name);

/// The exact rate nearest to a number: the 1001 kind where it is within 0.002, otherwise thousandths. Throws
/// as parse_frame_rate.
FrameRate nearest_frame_rate(double fps);

/// "25", or "24000/1001" where it is not whole.
std::string format_frame_rate(const FrameRate& rate);

/// For the eye: "25 fps", "23.976 fps".
std::string frame_rate_words(const FrameRate& rate);

}  // namespace askcount
