// SPDX-License-Identifier: GPL-3.0-or-later
#include "forecast/night.h"

#include <algorithm>

#include "forecast/light.h"
#include "plan/subject.h"
#include "sky/ephemeris.h"

namespace askcount::forecast {

using take::Take;

Seconds run_s(const Take& take) {
  const plan::Schedule schedule = schedule_of(take);
  const plan::Schedule::Part& first = schedule.parts().front();
  const plan::Sums sums = take.sums();
  return first.from_s + static_cast<double>(std::max(0LL, first.shots - 1)) * schedule.interval_s() +
         sums.interval_s - sums.gap_s;
}

bool is_night(const Take& take) {
  constexpr int kLooks = 8;
  constexpr double kNight_deg = -6;
  if (!take.knows_sky() || !take.solution().complete()) return false;
  const Instant end = later(take.start, std::min(run_s(take), 86400.0));
  const auto ephemeris = sky::ephemeris_for(take.start, end);
  for (int i = 0; i <= kLooks; ++i)
    if (ephemeris->at(sky::Body::Sun, take.start + (end - take.start) * i / kLooks, take.place).altitude_deg <
        kNight_deg)
      return true;
  return false;
}

bool needs_heater(const Take& take) {
  return take.light.weather.humidity.has_value() || take.light.weather.dew_point_c.has_value() ||
         plan::any_kind(take.subject, &plan::SubjectKind::at_night) || is_night(take);
}

bool heater_runs(const Take& take) {
  return take.light.weather.heater || (take.kit.heater_w > 0 && needs_heater(take));
}

}  // namespace askcount::forecast
