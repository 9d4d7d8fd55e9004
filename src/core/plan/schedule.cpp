// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/schedule.h"

#include <algorithm>
#include <chrono>
#include <cmath>

#include "base/error.h"

namespace askcount::plan {
namespace {

constexpr size_t kMostParts = 40000;
constexpr int kMostOff = 9;  // days in a row that are not shot
constexpr Seconds kOneDay_s = 86400;
constexpr long long kMostPresses = 1000000000;
constexpr double kSameHour = 1e-6;  // of an interval: two that are as long as an hour fit into it

/// One day's hours, in seconds from the start of the take.
struct Hours {
  std::optional<Day> date;
  Seconds from_s = 0, to_s = 0;
};

/// The days that are shot, one after the other.
class Days {
 public:
  explicit Days(const ScheduleWish& wish) : wish_(wish) {
    if (wish.start) day_ = day_of(*wish.start, wish.zone);
  }

  Hours next() {
    Hours hours;
    for (int tries = 0; hours.to_s <= hours.from_s && tries < kMostOff; ++tries, ++count_)
      hours = wish_.start ? dated() : plain();
    return hours;
  }

 private:
  bool works(unsigned weekday_from_monday) const {
    return weekday_from_monday < static_cast<unsigned>(wish_.work.days_a_week);
  }
  /// Without a date: a week that begins on a Monday at the first hour.
  Hours plain() const {
    if (!works(static_cast<unsigned>(count_ % 7))) return {};
    const Seconds from = static_cast<double>(count_) * kOneDay_s;
    return {{}, from, from + wish_.work.hours() * 3600};
  }
  Seconds wall(const Day& day, double hour) const {
    if (hour >= 24) return seconds_between(*wish_.start, day_start(day_after(day, 1), wish_.zone));
    const auto clock = std::chrono::milliseconds(std::llround(hour * 3600e3));
    try {
      return seconds_between(*wish_.start, at_wall_time(day, clock, wish_.zone));
    } catch (const Error&) {  // an hour that a change of the clock skips
      return seconds_between(*wish_.start, day_start(day, wish_.zone)) + hour * 3600;
    }
  }
  Hours dated() {
    const Day day = day_after(*day_, static_cast<int>(count_));
    const unsigned weekday = std::chrono::weekday(std::chrono::sys_days(day)).iso_encoding() - 1;
    if (!works(weekday)) return {};
    // Nothing is shot before the start.
    return {day, std::max(0.0, wall(day, wish_.work.from_h)), wall(day, wish_.work.to_h)};
  }

  const ScheduleWish& wish_;
  std::optional<Day> day_;
  long long count_ = 0;
};

/// Presses that begin within hours; one at the very end counts, midnight is the next day's.
long long presses_in(const Hours& hours, const ScheduleWish& wish) {
  const double steps = (hours.to_s - hours.from_s) / wish.interval_s;
  if (wish.work.to_h >= 24) return std::max(1LL, static_cast<long long>(std::ceil(steps - kSameHour)));
  return static_cast<long long>(std::floor(steps + kSameHour)) + 1;
}

}  // namespace

Schedule::Schedule(ScheduleWish wish) : wish_(std::move(wish)) {
  if (wish_.work.always()) {
    std::optional<Day> date;
    if (wish_.start) date = day_of(*wish_.start, wish_.zone);
    parts_.push_back({date, 0, std::max(0LL, wish_.shots), 0});
    return;
  }
  Days days(wish_);
  for (long long left = wish_.shots; left > 0;) {
    const Hours hours = days.next();
    const long long shots = parts_.size() + 1 >= kMostParts ? left : std::min(left, presses_in(hours, wish_));
    parts_.push_back({hours.date, wish_.shots - left, shots, hours.from_s});
    left -= shots;
  }
  if (parts_.empty()) parts_.push_back({});
}

size_t Schedule::part_of(long long press) const {
  const auto after = std::upper_bound(parts_.begin(), parts_.end(), press,
                                      [](long long n, const Part& p) { return n < p.first; });
  return after == parts_.begin() ? 0 : static_cast<size_t>(after - parts_.begin()) - 1;
}

Seconds Schedule::at_s(long long press) const {
  if (parts_.empty()) return static_cast<double>(press) * wish_.interval_s;
  const Part& part = parts_[part_of(press)];
  return part.from_s + static_cast<double>(press - part.first) * wish_.interval_s;
}

Instant Schedule::at(long long press) const {
  return later(wish_.start.value_or(Instant{}), at_s(press));
}

long long Schedule::press_at(Seconds at) const {
  if (parts_.empty() || wish_.shots <= 0) return -1;
  const auto after = std::upper_bound(parts_.begin(), parts_.end(), at + 1e-6,
                                      [](Seconds s, const Part& p) { return s < p.from_s; });
  if (after == parts_.begin()) return -1;
  const Part& part = *(after - 1);
  const auto within = static_cast<long long>(std::floor((at - part.from_s) / wish_.interval_s + kSameHour));
  return part.first + std::clamp(within, 0LL, part.shots - 1);
}

Seconds Schedule::field_s(Seconds open_s) const {
  return wish_.shots > 0 ? at_s(wish_.shots - 1) - at_s(0) + open_s : 0;
}

std::vector<Instant> Schedule::moments() const {
  std::vector<Instant> list;
  list.reserve(static_cast<size_t>(std::max(0LL, wish_.shots)));
  const Instant start = wish_.start.value_or(Instant{});
  for (const Part& p : parts_)
    for (long long k = 0; k < p.shots; ++k)
      list.push_back(later(start, p.from_s + static_cast<double>(k) * wish_.interval_s));
  return list;
}

std::vector<Schedule::Part> Schedule::days() const {
  if (pauses() || !wish_.start || parts_.empty() || wish_.shots <= 0) return parts_;
  std::vector<Part> list;
  Day day = *parts_.front().date;
  for (long long first = 0; first < wish_.shots && list.size() < kMostParts;) {
    const Seconds midnight = seconds_between(*wish_.start, day_start(day_after(day, 1), wish_.zone));
    const auto until = std::clamp(static_cast<long long>(std::ceil(midnight / wish_.interval_s - kSameHour)),
                                  first, wish_.shots);
    if (until > first)
      list.push_back({day, first, until - first, static_cast<double>(first) * wish_.interval_s});
    first = until;
    day = day_after(day, 1);
  }
  return list;
}

long long presses_within(const ScheduleWish& wish, Seconds field_s) {
  if (wish.work.always())
    return static_cast<long long>(std::min(1e9, std::floor(field_s / wish.interval_s + kSameHour) + 1));
  Days days(wish);
  long long presses = 0;
  Seconds end = 0;
  for (size_t n = 0; n < kMostParts && presses < kMostPresses; ++n) {
    Hours hours = days.next();
    if (n == 0) end = hours.from_s + field_s;
    if (hours.from_s >= end - kSameHour) break;
    if (end < hours.to_s) {
      presses += static_cast<long long>(std::floor((end - hours.from_s) / wish.interval_s + kSameHour)) + 1;
      break;
    }
    presses += presses_in(hours, wish);
  }
  return presses;
}

std::optional<Seconds> interval_for(const ScheduleWish& wish, Seconds field_s) {
  ScheduleWish tried = wish;
  const auto fits = [&](Seconds interval) {
    tried.interval_s = interval;
    return presses_within(tried, field_s) >= wish.shots;
  };
  for (const Seconds unit : {1.0, 0.1}) {
    if (!fits(unit)) continue;
    long long low = 1, high = static_cast<long long>(std::max(1.0, field_s / unit)) + 1;  // in units
    while (high - low > 1) {
      const long long middle = low + (high - low) / 2;
      (fits(static_cast<double>(middle) * unit) ? low : high) = middle;
    }
    return static_cast<double>(low) * unit;
  }
  return {};
}

}  // namespace askcount::plan
