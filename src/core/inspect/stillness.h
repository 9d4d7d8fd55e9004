// SPDX-License-Identifier: GPL-3.0-or-later
// Whether the camera stood still: where each frame's picture lies against the first one.
#pragma once

#include <deque>
#include <memory>
#include <optional>
#include <vector>

#include "inspect/eye.h"

namespace askcount::inspect {

/// Where a picture lies, in pixels of the full frame.
struct Position {
  double x = 0, y = 0, turn_deg = 0;
  double held_by = 0;  ///< share of what was compared that agrees; 0 where nothing can be said
  double step_x = 0, step_y = 0, step_turn_deg = 0, step_held_by = 0;  ///< from the frame before
};

/// Follows one take, frame by frame in order. What moves by itself (clouds, water, people) is told from the
/// camera's own movement by its windows: those that moved on in the frames before are set aside. Phase
/// correlation (Kuglin and Hines, 1975) of whitened windows, low frequencies weighted; sub-pixel by a
/// parabola through the peak's logarithm.
class Stillness {
 public:
  /// The next frame's position; frames that were not seen are skipped by not calling it.
  Position next(const std::shared_ptr<const Windows>& windows);

 private:
  struct Shift {
    float x = 0, y = 0, sure = 0;
  };
  struct Fit {
    double x = 0, y = 0, turn = 0, share = 0;  // turn in radians
    size_t windows = 0;
    bool expected = false;  // nothing moved against what was expected
  };
  std::vector<Shift> shifts(const Windows& from, const Windows& to) const;
  static std::optional<Fit> large_shift(const Windows& from, const Windows& to);
  std::vector<size_t> usable(const Windows& w, const std::vector<Shift>& s) const;
  /// Those among the windows that are known to stand still; all of them where that is not known.
  std::vector<size_t> still_among(const std::vector<size_t>& windows, bool& known) const;
  /// Where most windows went; where enough of them stayed at `expected`, those.
  static Fit fit(const Windows& w, const std::vector<Shift>& s, const std::vector<size_t>& which,
                 const Fit& expected);

  std::shared_ptr<const Windows> first_, before_;
  Position at_first_, at_before_, before_large_;
  size_t large_in_row_ = 0;
  size_t since_first_ = 0;
  std::vector<std::deque<cv::Point2f>> moved_;  // of each window, from frame to frame, the camera's taken off
};

}  // namespace askcount::inspect
