// SPDX-License-Identifier: GPL-3.0-or-later
// Takes over days: how much is shot each day, how often somebody has to come, and what the shutter wears.
#pragma once

#include <optional>

#include "plan/budgets.h"
#include "plan/schedule.h"

namespace askcount::plan {

/// What a take over days asks for. Of the batteries and cards that come along each visit.
struct DaysPlan {
  double shots_a_day = 0;    ///< on a day that is shot
  double days = 0;           ///< such days, until all shots are made
  double calendar_days = 0;  ///< with those between that are not
  double gb_a_day = 0;
  double power_days = 0,
         card_days = 0;             ///< what comes along lasts this many days; infinite where it does not end
  double shutter_share_a_week = 0;  ///< of what it was made for; 0 for an electronic one
  /// Days from one visit to the next, at most; infinite where nobody has to come.
  double visit_days() const { return power_days < card_days ? power_days : card_days; }
  bool example = false;  ///< by an example kit
};

/// Nothing for a take that ends within a day of always shooting. `budgets` and `schedule` are those of the
/// same take.
std::optional<DaysPlan> days_of(const Sums& sums, const ShotMake& make, const Kit& kit,
                                const std::vector<Budget>& budgets, const WorkHours& work,
                                const Schedule& schedule);

/// One finding that says it, with a warning where what comes along does not last a day.
Findings judge(const DaysPlan& days, const WorkHours& work);

}  // namespace askcount::plan
