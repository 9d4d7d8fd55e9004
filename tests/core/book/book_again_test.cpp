// SPDX-License-Identifier: GPL-3.0-or-later
// A take done again, and its two clocks.
#include "book/again.h"

#include "book/beside.h"
#include "book/clocks.h"
#include "support.h"

namespace askcount::book {
namespace {

const sky::Place kQuay{"Tern Quay", 56.1, -5.5, "Europe/London", 0};

TEST(BookAgain, TheSunComesBackTwiceAYearOnDaysOfTheSameDeclination) {
  const Instant then = parse_instant("2026-10-09 17:50:00", kQuay.zone);
  const auto found =
      again(sky::Body::Sun, then, kQuay, parse_instant("2026-11-01 00:00:00", kQuay.zone), 400);
  ASSERT_EQ(found.size(), 2u);
  // The year is 365.24 days: a day and a date off at most.
  const Day spring = day_of(found[0].at, kQuay.zone), autumn = day_of(found[1].at, kQuay.zone);
  EXPECT_EQ(static_cast<unsigned>(spring.month()), 3u) << "as far before the summer as October is after it";
  EXPECT_NEAR(static_cast<unsigned>(spring.day()), 5, 2);
  EXPECT_EQ(static_cast<unsigned>(autumn.month()), 10u);
  EXPECT_NEAR(static_cast<unsigned>(autumn.day()), 9, 1);
  for (const Again& a : found) {
    const auto sky = sky::ephemeris_for(a.at, a.at);
    const auto there = sky->at(sky::Body::Sun, a.at, kQuay);
    const auto stood = sky::ephemeris_for(then, then)->at(sky::Body::Sun, then, kQuay);
    EXPECT_NEAR(there.altitude_deg, stood.altitude_deg, 0.5);
    EXPECT_NEAR(there.azimuth_deg, stood.azimuth_deg, 0.9);
    EXPECT_LE(a.off_deg, 0.5);
  }
  // In winter the clock is an hour behind: the same sun, another time on the wall.
  EXPECT_EQ(format_clock(found[0].at, kQuay.zone).substr(0, 2), "17");
  EXPECT_LT(format_clock(found[0].at, kQuay.zone), "17:30");
}

TEST(BookAgain, TheCoreComesEveryNightFourMinutesEarlierAndDarkNightsAreChosen) {
  const sky::Place south{"The south", 35, 0, "UTC", 0};
  const Instant then = parse_instant("2026-06-12 23:30:00", "UTC");
  const auto found = again(sky::Body::Core, then, south, parse_instant("2026-06-13 12:00:00", "UTC"), 60);
  ASSERT_GE(found.size(), 2u);
  for (const Again& a : found) {
    const double days = seconds_between(then, a.at) / 86400;
    const double whole = std::round(days);
    EXPECT_NEAR((days - whole) * 1440, -3.93 * whole, 3) << "a sidereal day is 23 h 56 min 4 s";
    EXPECT_LT(a.moon_lit, 0.15) << "the darkest of its moon";
  }
}

TEST(BookAgain, NothingWhereItNeverStandsThere) {
  // The highest sun of the year comes back within days of the solstice only.
  const Instant then = parse_instant("2026-06-21 13:22:00", kQuay.zone);
  EXPECT_TRUE(
      again(sky::Body::Sun, then, kQuay, parse_instant("2026-09-01 00:00:00", kQuay.zone), 200).empty());
}

TEST(BookAgain, ANewTakeKeepsPlaceAndPlanAndForgetsTheDay) {
  take::Take old = take::demo_take();
  old.card = "card";
  old.ticks["strap"] = now();
  old.gather.leave_out = {"A.JPG"};
  old.metered = plan::Metered{};
  old.light.weather.humidity = 0.9;
  const take::Take next = begun_again(old, parse_day("2027-03-05"));
  EXPECT_EQ(next.place, old.place);
  EXPECT_EQ(next.wishes, old.wishes);
  EXPECT_EQ(next.light.move, old.light.move) << "the framing";
  EXPECT_EQ(next.kit, old.kit);
  EXPECT_EQ(format_iso(next.start, next.place.zone), "2027-03-05T17:50:00+00:00")
      << "the same time on the wall";
  EXPECT_TRUE(next.card.empty());
  EXPECT_TRUE(next.ticks.empty());
  EXPECT_TRUE(next.gather.leave_out.empty());
  EXPECT_FALSE(next.metered || next.light.weather.humidity);
  EXPECT_EQ(old.card, "card");
}

Row row(const std::string& start, double field_s, double film_s) {
  Row r;
  r.zone = kQuay.zone;
  if (!start.empty()) r.start = parse_instant(start, r.zone);
  r.place = "Tern Quay";
  r.field_s = field_s;
  r.film_s = film_s;
  return r;
}

TEST(BookClocks, AnEveningStandsOnItsDay) {
  const Clocks c = clocks_of(row("2026-10-09 18:00:00", 7200, 12));
  EXPECT_EQ(c.from, "0:00");
  EXPECT_NEAR(c.field_from, 0.75, 1e-9);
  EXPECT_NEAR(c.field_to, 20.0 / 24, 1e-9);
  EXPECT_NEAR(c.film_to - c.film_from, 0.2, 1e-9) << "12 s of 60";
  EXPECT_NEAR((c.film_from + c.film_to) / 2, (c.field_from + c.field_to) / 2, 1e-9);
}

TEST(BookClocks, ANightStandsFromNoonToNoon) {
  const Clocks c = clocks_of(row("2026-08-12 23:00:00", 4 * 3600, 500));
  EXPECT_EQ(c.from, "noon");
  EXPECT_NEAR(c.field_from, 11.0 / 24, 1e-9);
  EXPECT_NEAR(c.field_to, 15.0 / 24, 1e-9);
  EXPECT_EQ(c.film_from, 0) << "longer film does not go beyond";
  EXPECT_EQ(c.film_to, 1);
}

TEST(BookClocks, DaysAndUnknownStartsFillTheAxis) {
  for (const Row& r : {row("2026-08-12 23:00:00", 4 * 86400.0, 46), row("", 3600, 46)}) {
    const Clocks c = clocks_of(r);
    EXPECT_EQ(c.field_from, 0);
    EXPECT_EQ(c.field_to, 1);
    EXPECT_FALSE(c.day);
  }
  const Clocks edge = clocks_of(row("2026-10-09 23:50:00", 500, 60));
  EXPECT_GE(edge.field_from, 0.99);
  EXPECT_LE(edge.field_to, 1);
}

TEST(BookClocks, WordsOfARow) {
  Row r = row("2026-10-03 09:00:00", 4 * 86400.0, 46);
  EXPECT_EQ(where_and_when(r), "Tern Quay, 3 to 7 Oct 2026");
  r.field_s = 30 * 86400.0;
  EXPECT_EQ(where_and_when(r), "Tern Quay, 3 Oct to 2 Nov 2026");
  EXPECT_EQ(where_and_when(row("2026-10-09 18:00:00", 60, 1)), "Tern Quay, 9 Oct 2026");
  EXPECT_EQ(where_and_when(row("", 60, 1)), "Tern Quay");
  EXPECT_EQ(frames_words(r), "");
  r.planned_frames = 1152;
  EXPECT_EQ(frames_words(r), "1,152 planned");
  r.frames = 301;
  EXPECT_EQ(frames_words(r), "301 of 1,152");
  EXPECT_EQ(flicker_words(r), "");
  r.flicker_before = 0.11;
  r.flicker_after = 0.0004;
  EXPECT_EQ(flicker_words(r), "0.11 to under 0.001");
}

TEST(BookBeside, OnlyLinesThatSaySomethingAndWhatDiffers) {
  Entry a, b;
  a.name = "A";
  b.name = "B";
  a.subject = b.subject = "clouds";
  a.planned.frames = 250;
  b.planned.frames = 300;
  b.words.note = "Windy";
  const auto lines = lines_of({a, b});
  const auto line = [&](const std::string& what) -> const Line* {
    for (const Line& l : lines)
      if (l.what == what) return &l;
    return nullptr;
  };
  ASSERT_TRUE(line("Subject") && line("Frames planned") && line("Note"));
  EXPECT_FALSE(line("Subject")->differ);
  EXPECT_TRUE(line("Frames planned")->differ);
  EXPECT_EQ(line("Note")->each, (std::vector<std::string>{"", "Windy"}));
  EXPECT_EQ(line("Place"), nullptr);
}

}  // namespace
}  // namespace askcount::book
