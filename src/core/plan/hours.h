// SPDX-License-Identifier: GPL-3.0-or-later
// The sentence solved for a take that is shot within hours of work: its field time is one by the calendar.
#pragma once

#include "plan/schedule.h"
#include "plan/solver.h"

namespace askcount::plan {

/// solve(), with a field time that counts nights and days off: frames, or the interval, that fit into it by
/// the hours of `schedule` (whose interval and shots do not count). Always shot, it is solve(). A field time
/// that does not go with frames and interval is a conflict where it is pinned and gives way where it is not.
/// `proposals` as for solve().
Solution solve_in_hours(const std::vector<Wish>& wishes, const ShotShape& shape, const ScheduleWish& schedule,
                        const std::vector<Wish>& proposals = {});

}  // namespace askcount::plan
