// SPDX-License-Identifier: GPL-3.0-or-later
// Close-ups by magnification: how deep the focus is, and when a growing subject leaves it.
#pragma once

#include <optional>

#include "plan/kit.h"
#include "plan/sums.h"

namespace askcount::plan {

/// What a close-up at this magnification gives.
struct CloseUp {
  double depth_mm = 0;          ///< sharp from front to back: 2 × f-number × blur × (m + 1) ÷ m²
  double light_lost_stops = 0;  ///< by the longer extension: 2 × log2(1 + m)
  double effective_f = 0;       ///< f-number × (1 + m): what diffracts
  double field_width_mm = 0;    ///< how much of the subject the frame's width shows
};

/// `magnification` is the size on the sensor ÷ the size of the subject (0.01 to 10); `blur_um` the largest
/// blur that still looks sharp, two pixels where 0. Source: thin lens with equal pupils.
CloseUp close_up(const Body& body, double magnification, double f_number, double blur_um = 0);

/// When a subject that grows towards the lens leaves the focus: focused on its front, half the depth lies
/// before it. Frames between two refocusings, counted from the first; nothing where it never does within the
/// take.
std::optional<long long> refocus_every(const CloseUp& close, double grows_mm_per_hour, const Sums& sums);

}  // namespace askcount::plan
