// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/hours.h"

#include <algorithm>
#include <cmath>

namespace askcount::plan {
namespace {

/// Puts into a solution how long it lasts by the calendar.
void say_field(Solution& s, const ShotShape& shape, ScheduleWish hours) {
  if (!s.complete()) return;
  hours.interval_s = *s[Slot::Interval];
  hours.shots = std::llround(*s[Slot::Frames]) + shape.extra_shots;
  const Seconds open = shape.open_factor * *s[Slot::Shutter] + shape.extra_s;
  s.values[static_cast<size_t>(Slot::Field)] = Schedule(hours).field_s(open);
}

/// The wish that a field time comes to where one of frames and interval is open; nothing where both are, or
/// none.
std::optional<Wish> instead_of(const Wish& field, const Solution& without, const ShotShape& shape,
                               ScheduleWish hours) {
  const auto frames = without[Slot::Frames], interval = without[Slot::Interval];
  if (interval && !frames) {
    hours.interval_s = *interval;
    const long long shots = presses_within(hours, field.value) - shape.extra_shots;
    return Wish{Slot::Frames, static_cast<double>(std::max(1LL, shots)), field.pinned};
  }
  if (frames && !interval) {
    hours.shots = std::llround(*frames) + shape.extra_shots;
    if (const auto fits = interval_for(hours, field.value)) return Wish{Slot::Interval, *fits, field.pinned};
  }
  return {};
}

}  // namespace

Solution solve_in_hours(const std::vector<Wish>& wishes, const ShotShape& shape, const ScheduleWish& hours,
                        const std::vector<Wish>& proposals) {
  const auto solved = [&](const std::vector<Wish>& said, const std::vector<Wish>& proposed) {
    return solve(said, shape, kUsualTrail, proposed);
  };
  if (hours.work.always()) return solved(wishes, proposals);
  std::vector<Wish> rest = wishes;
  const auto at = std::find_if(rest.begin(), rest.end(), [](const Wish& w) { return w.slot == Slot::Field; });
  if (at == rest.end()) {
    Solution s = solved(rest, proposals);
    say_field(s, shape, hours);
    return s;
  }
  const Wish field = *at;
  rest.erase(at);
  // Of frames and interval one is to follow from the field time: that one is not proposed.
  std::vector<Wish> fewer = proposals;
  std::erase_if(fewer, [](const Wish& w) { return w.slot == Slot::Clip; });
  std::vector<Wish> counting = fewer;
  std::erase_if(counting, [](const Wish& w) { return w.slot == Slot::Interval; });
  if (solved(rest, counting)[Slot::Frames]) fewer = counting;
  const Solution without = solved(rest, fewer);
  if (const auto instead = instead_of(field, without, shape, hours)) {
    rest.push_back(*instead);
    Solution s = solved(rest, proposals);
    s.by[static_cast<size_t>(instead->slot)] = Relation::Field;
    std::replace(s.held.begin(), s.held.end(), instead->slot, Slot::Field);
    s.asked[static_cast<size_t>(instead->slot)] = 0;
    s.asked[static_cast<size_t>(Slot::Field)] = field.value;
    s.by[static_cast<size_t>(Slot::Field)] = Relation::Wished;
    if (!s.complete()) s.values[static_cast<size_t>(Slot::Field)] = field.value;
    say_field(s, shape, hours);
    return s;
  }
  Solution s = without;
  say_field(s, shape, hours);
  auto& value = s.values[static_cast<size_t>(Slot::Field)];
  if (!value || (value && std::abs(*value - field.value) <= 86400.0)) {  // to the day, as people count
    if (!value) value = field.value;
    s.held.push_back(Slot::Field);
    s.asked[static_cast<size_t>(Slot::Field)] = field.value;
    s.by[static_cast<size_t>(Slot::Field)] = Relation::Wished;
  } else if (field.pinned) {
    s.conflicts.push_back({Slot::Field, {Slot::Interval, Slot::Frames}, value});
  } else {
    s.gave_way.push_back(Slot::Field);
  }
  return s;
}

}  // namespace askcount::plan
