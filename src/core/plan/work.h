// SPDX-License-Identifier: GPL-3.0-or-later
// The hours of a day and the days of a week in which is shot.
#pragma once

#include <string>
#include <string_view>

namespace askcount::plan {

/// The hours of a day, and the days of a week, in which is shot.
struct WorkHours {
  double from_h = 0, to_h = 24;
  int days_a_week = 7;  ///< from Monday on
  bool operator==(const WorkHours&) const = default;
  double hours() const { return to_h - from_h; }
  bool always() const { return hours() >= 24 && days_a_week == 7; }
};

/// Reads "7-18" or "7:30-18x5" (five days a week), "always". Throws BadInput.
WorkHours parse_work(std::string_view text);
/// The same as it is read: "7:30-18x5", "always".
std::string work_text(const WorkHours& work);
/// "7:30 to 18:00, Monday to Friday", "day and night".
std::string work_words(const WorkHours& work);

}  // namespace askcount::plan
