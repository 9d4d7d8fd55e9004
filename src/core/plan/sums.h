// SPDX-License-Identifier: GPL-3.0-or-later
// The counted take: what the field must give for the wished clip.
#pragma once

#include <optional>
#include <string>

#include "base/finding.h"
#include "base/frame_rate.h"
#include "base/json.h"
#include "base/units.h"
#include "plan/solver.h"

namespace askcount::plan {

/// Every number of a take that the timer, the shoot and the film need. Present only when the solver had
/// enough.
struct Sums {
  long long frames = 0;
  Seconds interval_s = 0;
  Seconds gap_s = 0;  ///< may be negative where the shutter outgrows the interval
  Seconds shutter_s = 0;
  Seconds field_s = 0;
  Seconds clip_s = 0;
  FrameRate fps;
  double speed_up = 0;
  double trail = 0;
  std::optional<double> step;  ///< share of frame width, where the subject's crossing is known
  std::optional<Seconds> field_crossing_s;
  std::optional<Seconds> screen_crossing_s;
  bool trail_assumed = false;  ///< no trail and no shutter was set
  long long extra_shots = 0;   ///< spare ones, besides the frames
  int exposures = 1;           ///< of one shot
  double open_factor = 1;      ///< a shot's exposures together, by its middle one
  bool operator==(const Sums&) const = default;
};

/// The sums of a complete solution for shots of this shape. Throws BadInput with missing_words() where it is
/// not complete.
Sums sums_of(const Solution& solution, const ShotShape& shape = {});

/// Judges the sums: does the motion look whole, what can a usual timer be told. (Whether the camera keeps up
/// is judge_cycle()'s matter, how long the trail is advice::judge_trail()'s.)
Findings judge(const Sums& sums);

/// The keys every `--json` of sums has: frames, interval_s, gap_s, shutter_s, field_s, clip_s, fps,
/// fps_exact, speed_up, step, trail, crossing_s, screen_crossing_s. Unknown ones are null.
Json to_json(const Sums& sums);

}  // namespace askcount::plan
