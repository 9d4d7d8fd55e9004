// SPDX-License-Identifier: GPL-3.0-or-later
// A take that ended before its plan did.
#pragma once

#include <optional>

#include "base/finding.h"
#include "forecast/forecast.h"
#include "ingest/gather.h"
#include "take/take.h"

namespace askcount::forecast {

/// How far a take came.
struct EndedEarly {
  long long frames = 0;   ///< that are there
  long long reached = 0;  ///< presses until its last frame, with those in between that are missing
  long long planned = 0;
  std::optional<media::CameraTime> last;  ///< its last frame, by the camera's clock
  End by = End::Plan;                     ///< the likely cause; End::Plan where there is no telling
};

/// Nothing where the frames go to the plan's end (a few less are not missed), keep another beat than the
/// plan, or no plan is known. The cause is what the forecast sees near that frame, a timer that counts so
/// far, or a kit's card that so many megabytes fill.
std::optional<EndedEarly> ended_early(const take::Take& take, const ingest::FoundTake& found);

/// It as the finding `ended_early`: how many of how many, when, the likely cause, how long the film will be,
/// and what to do tonight.
Finding judge(const take::Take& take, const EndedEarly& ended);

}  // namespace askcount::forecast
