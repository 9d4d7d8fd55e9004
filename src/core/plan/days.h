// SPDX-License-Identifier: GPL-3.0-or-later
// Takes over days: the hours that are shot each day, how often somebody has to come, and what the shutter
// wears.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "plan/budgets.h"

namespace askcount::plan {

/// The hours of a day, and the days of a week, in which is shot.
struct WorkHours {
  double from_h = 0, to_h = 24;
  int days_a_week = 7;
  bool operator==(const WorkHours&) const = default;
  double hours() const { return to_h - from_h; }
  bool always() const { return hours() >= 24 && days_a_week == 7; }
};

/// Reads "7-18" or "7:30-18x5" (five days a week), "always". Throws BadInput.
WorkHours parse_work(std::string_view text);
/// The same as it is read: "7:30-18x5", "always".
std::string work_text(const WorkHours& work);
/// "7:30 to 18:00, 5 days a week", "day and night".
std::string work_words(const WorkHours& work);

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

/// Nothing for a take that ends within a day of always shooting. `budgets` are those of the same take.
std::optional<DaysPlan> days_of(const Sums& sums, const ShotMake& make, const Kit& kit,
                                const std::vector<Budget>& budgets, const WorkHours& work);

/// One finding that says it, with a warning where what comes along does not last a day.
Findings judge(const DaysPlan& days, const WorkHours& work);

}  // namespace askcount::plan
