// SPDX-License-Identifier: GPL-3.0-or-later
// When every press of a take comes: one an interval, within its hours of work.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/instant.h"
#include "base/units.h"
#include "plan/work.h"

namespace askcount::plan {

/// What a schedule is made from.
struct ScheduleWish {
  std::optional<Instant> start;  ///< nothing where the day is not known: then a Monday, within the hours
  std::string zone = "UTC";      ///< hours and days are by its wall clock
  Seconds interval_s = 1;        ///< start to start
  long long shots = 0;
  WorkHours work;
};

/// The presses of a take in time. A take that is always shot is one even run from its start on. Otherwise
/// each day begins anew at its first hour, on the first one not before the start, and the last press of a day
/// is the last that begins by its last hour. Seconds count from the start; plain values, safe from any
/// thread.
class Schedule {
 public:
  /// One day's presses, one after the other an interval apart.
  struct Part {
    std::optional<Day> date;  ///< where the start is known
    long long first = 0;      ///< press, from 0
    long long shots = 0;      ///< at least one
    Seconds from_s = 0;       ///< of its first press
  };

  Schedule() = default;
  explicit Schedule(ScheduleWish wish);

  long long shots() const { return wish_.shots; }
  Seconds interval_s() const { return wish_.interval_s; }
  /// Whether there are hours in which is not shot.
  bool pauses() const { return !wish_.work.always(); }

  /// The runs in order, at most 40,000 (the last then goes on without end). One for a take that is always
  /// shot.
  const std::vector<Part>& parts() const { return parts_; }
  /// Which of them a press is in.
  size_t part_of(long long press) const;
  /// When a press comes; those before the first and after the last go on at the interval.
  Seconds at_s(long long press) const;
  /// The moment of it, where the start is known; otherwise from the clock's zero.
  Instant at(long long press) const;
  /// The last press at or before a moment, from −1 before the first one.
  long long press_at(Seconds at_s) const;
  /// First opening to last closing, for shots that are open so long.
  Seconds field_s(Seconds open_s) const;
  /// The moments of all presses.
  std::vector<Instant> moments() const;
  /// Parts by calendar days, for a take that is always shot too; without a date where the start is not known.
  std::vector<Part> days() const;

 private:
  ScheduleWish wish_;
  std::vector<Part> parts_;
};

/// How many presses a schedule with these hours has from its start until `field_s` later; `shots` of the wish
/// does not count. At most a billion.
long long presses_within(const ScheduleWish& wish, Seconds field_s);

/// The longest interval of whole seconds (below a second: of tenths) at which that many shots fit into a
/// field time with these hours; `interval_s` of the wish does not count. Nothing where none does.
std::optional<Seconds> interval_for(const ScheduleWish& wish, Seconds field_s);

}  // namespace askcount::plan
