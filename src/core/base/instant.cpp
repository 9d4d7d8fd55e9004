#include "base/instant.h"

#include <date/tz.h>
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "base/error.h"

namespace askcount {
namespace {

const date::time_zone* find_zone(const std::string& name) {
  try {
    return date::locate_zone(name);
  } catch (const std::exception&) {
    throw bad_input(fmt::format("There is no time zone \"{}\".", name), "Write one like Europe/London.");
  }
}

}  // namespace

WallTime wall_time(Instant instant, const std::string& zone) {
  const date::time_zone* tz = find_zone(zone);
  const auto local = tz->to_local(instant);
  const auto day = date::floor<date::days>(local);
  const date::year_month_day ymd(day);
  const auto ms = std::chrono::duration_cast<std::chrono::milliseconds>(local - day).count();
  WallTime w;
  w.year = int(ymd.year());
  w.month = static_cast<int>(unsigned(ymd.month()));
  w.day = static_cast<int>(unsigned(ymd.day()));
  w.hour = static_cast<int>(ms / 3600000);
  w.minute = static_cast<int>(ms / 60000 % 60);
  w.second = static_cast<int>(ms / 1000 % 60);
  w.millisecond = static_cast<int>(ms % 1000);
  w.offset_s = static_cast<int>(tz->get_info(instant).offset.count());
  return w;
}

Instant parse_wall_time(std::string_view text, const std::string& zone) {
  std::string clean(text);
  for (char& c : clean)
    if (c == 'T') c = ' ';
  int y = 0, mo = 0, d = 0, h = 0, mi = 0, used = 0;
  double s = 0;
  const auto error = [&] {
    return bad_input(fmt::format("\"{}\" is not a date and time.", text), "Write it like 2026-10-09 18:14.");
  };
  if (std::sscanf(clean.c_str(), "%4d-%2d-%2d %2d:%2d%n", &y, &mo, &d, &h, &mi, &used) != 5) throw error();
  if (clean[static_cast<size_t>(used)] == ':') {
    int more = 0;
    if (std::sscanf(clean.c_str() + used, ":%lf%n", &s, &more) != 1) throw error();
    used += more;
  }
  const date::year_month_day ymd{date::year(y), date::month(static_cast<unsigned>(mo)),
                                 date::day(static_cast<unsigned>(d))};
  if (static_cast<size_t>(used) != clean.size() || !ymd.ok() || h > 23 || h < 0 || mi > 59 || mi < 0 ||
      s < 0 || s >= 60)
    throw error();
  const auto local = date::local_days(ymd) + std::chrono::hours(h) + std::chrono::minutes(mi) +
                     std::chrono::milliseconds(std::llround(s * 1000));
  const date::time_zone* tz = find_zone(zone);
  if (tz->get_info(local).result == date::local_info::nonexistent)
    throw bad_input(fmt::format("{} does not exist in {}: the clocks skip it.", text, zone));
  return tz->to_sys(local, date::choose::earliest);
}

Day parse_day(std::string_view text) {
  Day d;
  int used = 0;
  const std::string copy(text);
  if (std::sscanf(copy.c_str(), "%4d-%2d-%2d%n", &d.year, &d.month, &d.day, &used) != 3 ||
      static_cast<size_t>(used) != copy.size() ||
      !date::year_month_day(date::year(d.year), date::month(static_cast<unsigned>(d.month)),
                            date::day(static_cast<unsigned>(d.day)))
           .ok() ||
      d.year < 1600 || d.year > 2400)
    throw bad_input(fmt::format("\"{}\" is not a date.", text), "Write it like 2026-10-09.");
  return d;
}

std::string format_day(const Day& d) {
  return fmt::format("{:04}-{:02}-{:02}", d.year, d.month, d.day);
}

std::string day_words(const Day& d) {
  static constexpr const char* months[] = {"Jan", "Feb", "Mar", "Apr", "May", "Jun",
                                           "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"};
  return fmt::format("{} {}", d.day, months[std::max(0, std::min(11, d.month - 1))]);
}

namespace {

date::local_days local_of(const Day& d) {
  return date::local_days(date::year_month_day(date::year(d.year),
                                               date::month(static_cast<unsigned>(d.month)),
                                               date::day(static_cast<unsigned>(d.day))));
}

Day day_of_local(date::local_days local) {
  const date::year_month_day ymd(local);
  return {int(ymd.year()), static_cast<int>(unsigned(ymd.month())), static_cast<int>(unsigned(ymd.day()))};
}

}  // namespace

Day day_after(const Day& day, int days) {
  return day_of_local(local_of(day) + date::days(days));
}

Day day_of(Instant instant, const std::string& zone) {
  return day_of_local(date::floor<date::days>(find_zone(zone)->to_local(instant)));
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
  int hours = 0, minutes = 0;
  const std::string offset(text.substr(at + 1));
  const Instant utc = parse_wall_time(text.substr(0, at), "UTC");
  if (text[at] == 'Z' && offset.empty()) return utc;
  if (text[at] == 'Z' ||
      (std::sscanf(offset.c_str(), "%2d:%2d", &hours, &minutes) != 2 &&
       std::sscanf(offset.c_str(), "%2d%2d", &hours, &minutes) != 2) ||
      hours > 15 || minutes > 59)
    throw bad_input(fmt::format("\"{}\" is not a date and time.", text),
                    "Write it like 2026-10-09T18:14+01:00.");
  const auto ahead = std::chrono::hours(hours) + std::chrono::minutes(minutes);
  return text[at] == '+' ? utc - ahead : utc + ahead;
}

std::string format_iso(Instant instant, const std::string& zone) {
  const WallTime w = wall_time(instant, zone);
  const int minutes = std::abs(w.offset_s) / 60;
  return fmt::format("{:04}-{:02}-{:02}T{:02}:{:02}:{:02}{}{:02}:{:02}", w.year, w.month, w.day, w.hour,
                     w.minute, w.second, w.offset_s < 0 ? '-' : '+', minutes / 60, minutes % 60);
}

std::string format_clock(Instant instant, const std::string& zone, bool with_seconds) {
  const WallTime w = wall_time(instant, zone);
  return with_seconds ? fmt::format("{:02}:{:02}:{:02}", w.hour, w.minute, w.second)
                      : fmt::format("{:02}:{:02}", w.hour, w.minute);
}

Instant later(Instant instant, double seconds) {
  return instant + std::chrono::milliseconds(std::llround(seconds * 1000));
}

double seconds_between(Instant a, Instant b) {
  return static_cast<double>((b - a).count()) / 1000.0;
}

}  // namespace askcount
