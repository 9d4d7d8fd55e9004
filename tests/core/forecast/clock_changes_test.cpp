// SPDX-License-Identifier: GPL-3.0-or-later
// Days on which the clocks are changed: what is worked out over them.
#include "base/instant.h"
#include "book/clocks.h"
#include "forecast/shoot.h"
#include "sky/events.h"
#include "sky/windows.h"
#include "support.h"

namespace askcount {
namespace {

constexpr const char* kLondon = "Europe/London";
// In 2026 the clocks there go forward on 29 March at 1:00 and back on 25 October at 2:00.

double hours_between(Instant a, Instant b) {
  return std::chrono::duration<double>(b - a).count() / 3600;
}

TEST(ClockChanges, DaysAreAsLongAsTheyAre) {
  const auto length = [](const char* day, const std::string& zone) {
    const Day d = parse_day(day);
    return hours_between(day_start(d, zone), day_start(day_after(d, 1), zone));
  };
  EXPECT_DOUBLE_EQ(length("2026-03-29", kLondon), 23);
  EXPECT_DOUBLE_EQ(length("2026-10-25", kLondon), 25);
  EXPECT_DOUBLE_EQ(length("2026-10-24", kLondon), 24);
  EXPECT_DOUBLE_EQ(length("2026-03-29", "UTC"), 24);
  EXPECT_DOUBLE_EQ(length("2026-04-05", "Australia/Lord_Howe"), 24.5) << "some change by half an hour";
}

TEST(ClockChanges, AnHourThatIsNotThereIsRefusedAndOneThatComesTwiceIsTheFirst) {
  EXPECT_EQ(test::error_of([] { parse_wall_time("2026-03-29 01:30", kLondon); }).kind(),
            Error::Kind::BadInput);
  EXPECT_EQ(format_iso(parse_wall_time("2026-03-29 02:30", kLondon), kLondon), "2026-03-29T02:30:00+01:00");
  EXPECT_EQ(format_iso(parse_wall_time("2026-10-25 01:30", kLondon), kLondon), "2026-10-25T01:30:00+01:00");
  // With its offset each of the two can be said, and comes back as it was said.
  for (const char* moment : {"2026-10-25T01:30:00+01:00", "2026-10-25T01:30:00+00:00"})
    EXPECT_EQ(format_iso(parse_instant(moment, kLondon), kLondon), moment);
  EXPECT_DOUBLE_EQ(hours_between(parse_instant("2026-10-25T01:30:00+01:00", kLondon),
                                 parse_instant("2026-10-25T01:30:00+00:00", kLondon)),
                   1);
}

TEST(ClockChanges, MidnightIsWhereItIsThoughItBeSkipped) {
  // In Cairo the clocks go forward at midnight: 24 April 2026 begins at one.
  const Day day = parse_day("2026-04-24");
  EXPECT_EQ(format_iso(day_start(day, "Africa/Cairo"), "Africa/Cairo"), "2026-04-24T01:00:00+03:00");
  EXPECT_EQ(day_of(day_start(day, "Africa/Cairo"), "Africa/Cairo"), day);
}

TEST(ClockChanges, TheSunKnowsNothingOfThem) {
  const sky::Place quay{"Tern Quay", 56.1, -5.5, kLondon, 0};
  for (const char* name : {"2026-03-29", "2026-10-25"}) {
    const Day day = parse_day(name);
    const sky::DayEvents before = sky::events_of(day_after(day, -1), quay), on = sky::events_of(day, quay),
                         after = sky::events_of(day_after(day, 1), quay);
    for (const char* key : {"sunrise", "solar_noon", "sunset"}) {
      ASSERT_TRUE(before[key] && on[key] && after[key]) << key;
      // From day to day by a few minutes only, whatever the walls show.
      EXPECT_NEAR(hours_between(*before[key], *on[key]), 24, 0.06) << name << " " << key;
      EXPECT_NEAR(hours_between(*on[key], *after[key]), 24, 0.06) << name << " " << key;
      EXPECT_EQ(day_of(*on[key], kLondon), day) << key;
    }
  }
  // On the wall sunset jumps by the hour.
  const auto wall = [&](const char* name) {
    return wall_time(*sky::events_of(parse_day(name), quay)["sunset"], kLondon).seconds_of_day() / 3600;
  };
  EXPECT_NEAR(wall("2026-03-29") - wall("2026-03-28"), 1, 0.06);
  EXPECT_NEAR(wall("2026-10-25") - wall("2026-10-24"), -1, 0.06);
}

TEST(ClockChanges, ATakeOverOneLastsItsFieldTimeAndStartsByTheClockOfItsStart) {
  take::Take t = test::small_take(100, {48, 32}, 120);
  t.place.zone = kLondon;
  t.start = parse_wall_time("2026-10-25 00:30", kLondon);  // 3 h 18 min: over the second 1:30
  const plan::Sums sums = t.sums();
  EXPECT_EQ(format_clock(t.start, kLondon), "00:30");
  EXPECT_EQ(format_clock(later(t.start, sums.field_s), kLondon), "02:48")
      << "an hour earlier than by counting on the wall";
  const timer::Program program = forecast::program_of(t);
  if (!program.start_clock.empty()) {
    EXPECT_EQ(program.start_clock, "00:30");
  }
  EXPECT_EQ(forecast::first_shot_at(t, later(t.start, -3600)), t.start);
}

TEST(ClockChanges, ARowOfTheBookStandsOnTheDayOfItsPlace) {
  book::Row row;
  row.place = "Tern Quay";
  row.zone = kLondon;
  row.start = parse_wall_time("2026-10-25 00:30", kLondon);
  row.field_s = 3 * 3600;
  row.film_s = 4;
  const book::Clocks c = book::clocks_of(row);
  EXPECT_TRUE(c.day);
  // The axis is that day's 25 hours, or a usual day: in either case the bar begins soon after midnight, and
  // is not longer than three hours of it.
  EXPECT_NEAR(c.field_from, 0.5 / 24, 0.003);
  EXPECT_NEAR(c.field_to - c.field_from, 3.0 / 24, 0.006);
}

}  // namespace
}  // namespace askcount
