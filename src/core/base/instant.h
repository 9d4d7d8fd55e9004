// Moments and the clock on the wall.
#pragma once

#include <chrono>
#include <string>
#include <string_view>

namespace askcount {

/// A moment in universal time, to the millisecond.
using Instant = std::chrono::sys_time<std::chrono::milliseconds>;

/// The wall clock of a zone at a moment.
struct WallTime {
  int year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0, millisecond = 0;
  int offset_s = 0;  ///< ahead of universal time
};

/// `zone` is a name such as "Europe/London". Throws BadInput where there is no such zone.
WallTime wall_time(Instant instant, const std::string& zone);

/// The moment a zone's wall clock shows `text` ("2026-10-09 18:14:30", seconds and fraction optional, "T"
/// allowed). Throws BadInput for a text that is no date and for a wall time skipped by a clock change.
Instant parse_wall_time(std::string_view text, const std::string& zone);

/// A day of the calendar.
struct Day {
  int year = 2000, month = 1, day = 1;
  auto operator<=>(const Day&) const = default;
};

/// Reads "2026-10-09". Throws BadInput.
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

/// ISO 8601 with offset: "2026-10-09T18:14:30+01:00".
std::string format_iso(Instant instant, const std::string& zone);

/// "18:14" or, with seconds, "18:14:30".
std::string format_clock(Instant instant, const std::string& zone, bool with_seconds = false);

/// `instant` moved by seconds, rounded to the millisecond.
Instant later(Instant instant, double seconds);

/// Seconds from `a` to `b`.
double seconds_between(Instant a, Instant b);

}  // namespace askcount
