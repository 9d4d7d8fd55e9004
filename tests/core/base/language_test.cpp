// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers do not depend on the language.
#include <clocale>
#include <cstdlib>

#include "base/instant.h"
#include "base/units.h"
#include "ramp/light.h"
#include "sky/place.h"
#include "support.h"

namespace askcount {
namespace {

/// The run that is meant to be under a language with a decimal comma really is.
TEST(Language, HasACommaWhereItIsMeantTo) {
  if (!std::getenv("ASKCOUNT_EXPECTS_COMMA")) GTEST_SKIP();
  EXPECT_STREQ(std::localeconv()->decimal_point, ",");
}

TEST(Language, DecimalsAreReadWithAPoint) {
  for (const auto& [text, value, rest] : {std::tuple{"56.1, -5.5", 56.1, ", -5.5"},
                                          {"-0.25x", -0.25, "x"},
                                          {"+3", 3.0, ""},
                                          {"7e2", 7.0, "e2"}}) {
    std::string_view left = text;
    const auto read = take_decimal(left);
    ASSERT_TRUE(read) << text;
    EXPECT_DOUBLE_EQ(*read, value);
    EXPECT_EQ(left, rest);
  }
  std::string_view none = "about 5";
  EXPECT_FALSE(take_decimal(none));
  EXPECT_EQ(none, "about 5");
}

TEST(Language, PlacesReadingsAndTimesAreReadInAny) {
  EXPECT_EQ(sky::parse_coordinates("56.1, -5.5"), (std::pair{56.1, -5.5}));
  const auto readings = ramp::readings_of_csv(
      "time,ev100\n2026-10-09T18:14:00,12.3\n2026-10-09T18:20:30.5, -1.75\n", "UTC", "r.csv");
  EXPECT_DOUBLE_EQ(readings[0].ev, 12.3);
  EXPECT_DOUBLE_EQ(readings[1].ev, -1.75);
  EXPECT_EQ(readings[1].at.time_since_epoch().count() % 60000, 30500);
  EXPECT_EQ(format_iso(parse_instant("2026-10-09T18:14:30+01:00", "UTC"), "UTC"),
            "2026-10-09T17:14:30+00:00");
  EXPECT_EQ(ramp::csv_of(readings, "UTC").find("12,3"), std::string::npos);
  for (const char* wrong : {"12.3.4", "12,3", "x", ""})
    EXPECT_THROW(ramp::readings_of_csv(
                     std::string("2026-10-09T18:14:00,") + wrong + "\n2026-10-09T18:15:00,2\n", "UTC", "r"),
                 Error)
        << wrong;
}

TEST(Language, DatesAreReadWholeOrNotAtAll) {
  EXPECT_EQ(format_day(parse_day("2028-02-29")), "2028-02-29");
  EXPECT_EQ(format_day(day_after(parse_day("2026-12-31"), 1)), "2027-01-01");
  for (const char* wrong : {"2026-02-29", "2026-10-09x", "09.10.2026", "1599-01-01", ""})
    EXPECT_THROW(parse_day(wrong), Error) << wrong;
  for (const char* wrong : {"2026-10-09 24:00", "2026-10-09 18:14:60", "2026-10-09 18:14 h", "18:14"})
    EXPECT_THROW(parse_wall_time(wrong, "UTC"), Error) << wrong;
  for (const char* wrong : {"2026-10-09T18:14Zulu", "2026-10-09T18:14+16:00"})
    EXPECT_THROW(parse_instant(wrong, "UTC"), Error) << wrong;
  EXPECT_EQ(parse_instant("2026-10-09T18:14+0530", "UTC"), parse_instant("2026-10-09T12:44Z", "UTC"));
}

}  // namespace
}  // namespace askcount
