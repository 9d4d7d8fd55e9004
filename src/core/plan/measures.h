// SPDX-License-Identifier: GPL-3.0-or-later
// How fast the subject moves, measured in the ways there are, and how well they agree.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/units.h"

namespace askcount::plan {

/// Where a crossing time comes from.
enum class MotionWay { Stopwatch, Pictures, Speed };

/// One measured crossing of the frame.
struct Measure {
  MotionWay way = MotionWay::Stopwatch;
  Seconds crossing_s = 0;
  Seconds spread_s = 0;  ///< standard deviation of repeated taps; 0 for a single one
  int taps = 1;
  bool operator==(const Measure&) const = default;
};

/// "by stopwatch", "by two pictures", "by speed and distance".
std::string measure_words(MotionWay way);
/// The mean of times tapped from entering to leaving, with their spread. Throws BadInput without any.
Measure stopwatch(const std::vector<Seconds>& taps);

/// The interval a measured crossing asks for: (field crossing ÷ screen crossing) ÷ fps.
Seconds interval_for(const Measure& measure, Seconds screen_crossing_s, double fps);

/// Whether the measures agree with each other: a warning where two differ by more than half. Empty below two.
Findings judge(const std::vector<Measure>& measures);

/// How motion on the screen will look, against the seven seconds of the panning rule at 24 fps: "calm" from 7
/// s for the frame's width on, "natural" from 3.5 s, "lively" until the step passes a twentieth of the width,
/// then "broken up" unless trails bridge it (0.8 of the step and more count half).
const char* motion_word(double screen_crossing_s, double step, double trail);

}  // namespace askcount::plan
