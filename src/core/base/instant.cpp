// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/instant.h"

// The library's own reader of seconds looks to GCC 12 as if it could leave them unset.
#ifndef __clang__
#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wmaybe-uninitialized"
#endif
#include <date/tz.h>
#ifndef __clang__
#pragma GCC diagnostic pop
#endif
#include <fmt/format.h>

#include <cmath>
#include <locale>
#include <optional>
#include <sstream>

#include "base/error.h"
#include "base/language.h"

namespace askcount {
namespace {

using std::chrono::milliseconds;

const date::time_zone* find_zone(const std::string& name) {
  try {
    return date::locate_zone(name);
  } catch (const std::exception&) {
    throw bad_input(say("There is no time zone \"{}\".", name), say("Write one like Europe/London."));
  }
}

// The library of time zones has calendar types of its own; both count days from 1970.
date::local_days local_of(const Day& day) {
  return date::local_days(date::days(std::chrono::sys_days(day).time_since_epoch().count()));
}
Day day_of_local(date::local_days local) {
  return std::chrono::sys_days(std::chrono::days(local.time_since_epoch().count()));
}

/// `text` read by a format of the date library, whole and whatever the language; nothing where it does not
/// fit.
template <typename Time>
std::optional<Time> read_as(std::string_view text, const char* format) {
  std::istringstream in{std::string(text)};
  in.imbue(std::locale::classic());
  Time time{};
  in >> date::parse(format, time);
  if (in.fail() || in.peek() != std::istringstream::traits_type::eof()) return {};
  return time;
}

using LocalTime = date::local_time<std::chrono::microseconds>;

/// A year of 256 is a slip of the finger.
bool in_our_years(const Day& day) {
  return day.year() >= std::chrono::year(1600) && day.year() <= std::chrono::year(2400);
}
bool in_our_years(LocalTime time) {
  return in_our_years(day_of_local(date::floor<date::days>(time)));
}

std::optional<LocalTime> read_local(std::string_view text) {
  std::string clean(text);
  for (char& c : clean)
    if (c == 'T') c = ' ';
  for (const char* format : {"%Y-%m-%d %H:%M:%S", "%Y-%m-%d %H:%M"})
    if (const auto time = read_as<LocalTime>(clean, format)) return in_our_years(*time) ? time : std::nullopt;
  return {};
}

Instant instant_of(LocalTime local, std::string_view said, const std::string& zone) {
  const date::time_zone* tz = find_zone(zone);
  if (tz->get_info(local).result == date::local_info::nonexistent)
    throw bad_input(say("{} does not exist in {}: the clocks skip it.", said, zone));
  return std::chrono::round<milliseconds>(tz->to_sys(local, date::choose::earliest));
}

}  // namespace

Instant now() {
  return std::chrono::floor<milliseconds>(std::chrono::system_clock::now());
}

WallTime wall_time(Instant instant, const std::string& zone) {
  const date::time_zone* tz = find_zone(zone);
  const auto local = tz->to_local(instant);
  const auto day = date::floor<date::days>(local);
  return {day_of_local(day), local - day, tz->get_info(instant).offset};
}

std::optional<Instant> read_time(std::string_view text, const char* format) {
  const auto time = read_as<date::local_time<milliseconds>>(text, format);
  return time ? std::optional(Instant(time->time_since_epoch())) : std::nullopt;
}

Instant parse_wall_time(std::string_view text, const std::string& zone) {
  const auto local = read_local(text);
  if (!local)
    throw bad_input(say("\"{}\" is not a date and time.", text), say("Write it like 2026-10-09 18:14."));
  return instant_of(*local, text, zone);
}

Instant at_wall_time(const Day& day, milliseconds clock, const std::string& zone) {
  return instant_of(local_of(day) + clock, format_day(day), zone);
}

Day parse_day(std::string_view text) {
  const auto local = read_as<date::local_days>(text, "%Y-%m-%d");
  const Day day = local ? day_of_local(*local) : Day{};
  if (!local || !in_our_years(day))
    throw bad_input(say("\"{}\" is not a date.", text), say("Write it like 2026-10-09."));
  return day;
}

std::string format_day(const Day& d) {
  return fmt::format("{:04}-{:02}-{:02}", static_cast<int>(d.year()), static_cast<unsigned>(d.month()),
                     static_cast<unsigned>(d.day()));
}

std::string day_words(const Day& d) {
  static constexpr const char* months[] = {to_say("Jan"), to_say("Feb"), to_say("Mar"), to_say("Apr"),
                                           to_say("May"), to_say("Jun"), to_say("Jul"), to_say("Aug"),
                                           to_say("Sep"), to_say("Oct"), to_say("Nov"), to_say("Dec")};
  const unsigned month = static_cast<unsigned>(d.month());
  return say("{} {}", static_cast<unsigned>(d.day()), say(months[month >= 1 && month <= 12 ? month - 1 : 0]));
}

Day day_after(const Day& day, int days) {
  return std::chrono::sys_days(day) + std::chrono::days(days);
}

Day day_of(Instant instant, const std::string& zone) {
  return wall_time(instant, zone).day;
}

Instant day_start(const Day& day, const std::string& zone) {
  const date::time_zone* tz = find_zone(zone);
  const auto local = local_of(day);
  const date::local_info info = tz->get_info(local);
  if (info.result == date::local_info::nonexistent) return info.first.end;  // midnight itself is skipped
  return tz->to_sys(local, date::choose::earliest);
}

Instant parse_instant(std::string_view text, const std::string& zone) {
  // An offset at the end says all; otherwise the zone's wall clock is meant.
  const size_t t = text.find_first_of("T ");
  const size_t at = t == std::string_view::npos ? t : text.find_first_of("Z+-", t);
  if (at == std::string_view::npos) return parse_wall_time(text, zone);
  const auto local = read_local(text.substr(0, at));
  std::optional<std::chrono::minutes> ahead;
  const std::string_view offset = text.substr(at + 1);
  if (text[at] == 'Z') {
    if (offset.empty()) ahead = std::chrono::minutes(0);
  } else {
    for (const char* format : {"%H:%M", "%H%M"})
      if (!ahead && offset.size() >= 4) ahead = read_as<std::chrono::minutes>(offset, format);
  }
  if (!local || !ahead || *ahead > std::chrono::hours(15))
    throw bad_input(say("\"{}\" is not a date and time.", text),
                    say("Write it like 2026-10-09T18:14+01:00."));
  const Instant utc = std::chrono::round<milliseconds>(
      std::chrono::sys_time<std::chrono::microseconds>(local->time_since_epoch()));
  return text[at] == '-' ? utc + *ahead : utc - *ahead;
}

std::string format_iso(Instant instant, const std::string& zone) {
  const WallTime w = wall_time(instant, zone);
  // Before there were zones an offset had seconds too, which this way of writing has no place for.
  if (w.offset.count() % 60 != 0) {
    const std::string utc = format_iso(instant, "UTC");
    return utc.substr(0, utc.size() - 6) + "Z";
  }
  const auto minutes = std::chrono::abs(std::chrono::duration_cast<std::chrono::minutes>(w.offset)).count();
  return fmt::format("{}T{}{}{:02}:{:02}", format_day(w.day), format_clock(instant, zone, true),
                     w.offset.count() < 0 ? '-' : '+', minutes / 60, minutes % 60);
}

std::string format_clock(Instant instant, const std::string& zone, bool with_seconds) {
  const auto s = std::chrono::floor<std::chrono::seconds>(wall_time(instant, zone).clock).count();
  return with_seconds ? fmt::format("{:02}:{:02}:{:02}", s / 3600, s / 60 % 60, s % 60)
                      : fmt::format("{:02}:{:02}", s / 3600, s / 60 % 60);
}

Instant later(Instant instant, double seconds) {
  return instant + milliseconds(std::llround(seconds * 1000));
}

double seconds_between(Instant a, Instant b) {
  return static_cast<double>((b - a).count()) / 1000.0;
}

}  // namespace askcount
