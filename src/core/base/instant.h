// SPDX-License-Identifier: GPL-3.0-or-later
// Moments and the clock on the wall.
#pragma once

#include <chrono>
#include <optional>
#include <string>
#include <string_view>

namespace askcount {

/// A moment in universal time, to the millisecond.
using Instant = std::chrono::sys_time<std::chrono::milliseconds>;

/// A day of the calendar.
using Day = std::chrono::year_month_day;

/// This moment, by the clock of the computer.
Instant now();

/// The wall clock of a zone at a moment.
struct WallTime {
  Day day;
  std::chrono::milliseconds clock{};  ///< since the wall clock showed midnight
  std::chrono::seconds offset{};      ///< ahead of universal time

  int hour() const { return static_cast<int>(clock / std::chrono::hours(1)); }
  double seconds_of_day() const { return std::chrono::duration<double>(clock).count(); }
};

/// `zone` is a name such as "Europe/London". Throws BadInput where there is no such zone.
WallTime wall_time(Instant instant, const std::string& zone);

/// `text` read by a format as date and time, whole and whatever the language; nothing where it does not fit.
/// Formats are those of Howard Hinnant's date::parse ("%Y:%m:%d %H:%M:%S"). No zone is looked at.
std::optional<Instant> read_time(std::string_view text, const char* format);

/// The moment a zone's wall clock shows `text` ("2026-10-09 18:14:30", seconds and fraction optional, "T"
/// allowed), of the years 1600 to 2400. Throws BadInput for a text that is no date and for a wall time
/// skipped by a clock change.
Instant parse_wall_time(std::string_view text, const std::string& zone);

/// The moment a zone's wall clock shows a time of a day; throws as parse_wall_time.
Instant at_wall_time(const Day& day, std::chrono::milliseconds clock, const std::string& zone);

/// Reads "2026-10-09", from 1600 to 2400. Throws BadInput.
Day parse_day(std::string_view text);
/// "2026-10-09", and for the eye "9 Oct".
std::string format_day(const Day& day);
std::string day_words(const Day& day);
/// `days` later or earlier.
Day day_after(const Day& day, int days);
/// The day a zone's wall clock shows.
Day day_of(Instant instant, const std::string& zone);
/// The first moment of a day in a zone, whatever its clocks skip.
Instant day_start(const Day& day, const std::string& zone);

/// Reads a moment: "2026-10-09T18:14:30+01:00", "…Z", or a wall time of `zone` as parse_wall_time does.
/// Throws BadInput.
Instant parse_instant(std::string_view text, const std::string& zone);

/// ISO 8601 with offset, in whole seconds: "2026-10-09T18:14:30+01:00"; with "Z" where the zone's offset of
/// that time has seconds.
std::string format_iso(Instant instant, const std::string& zone);

/// "18:14" or, with seconds, "18:14:30".
std::string format_clock(Instant instant, const std::string& zone, bool with_seconds = false);

/// `instant` moved by seconds, rounded to the millisecond.
Instant later(Instant instant, double seconds);

/// Seconds from `a` to `b`.
double seconds_between(Instant a, Instant b);

}  // namespace askcount
