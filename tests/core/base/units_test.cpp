// SPDX-License-Identifier: GPL-3.0-or-later
// Lengths of time and frame rates as people write them.
#include "base/units.h"

#include "base/frame_rate.h"
#include "base/instant.h"
#include "support.h"

namespace askcount {
namespace {

TEST(Lengths, AreReadInTheUsualWays) {
  const std::pair<const char*, double> said[] = {
      {"90", 90},           {"90 s", 90},    {"90s", 90},       {"1h30", 5400},       {"1h30m", 5400},
      {"1 h 30 min", 5400}, {"2:30", 150},   {"1:02:03", 3723}, {"1/125", 0.008},     {"1/125 s", 0.008},
      {"2 min", 120},       {"2m30", 150},   {"2m30s", 150},    {"1.5 min", 90},      {"0,5 s", 0.5},
      {"250 ms", 0.25},     {"99h", 356400}, {"2 d", 172800},   {" 10 seconds ", 10}, {"4.8", 4.8},
      {"1 / 2", 0.5},       {"10 Min", 600}, {"0:07", 7}};
  for (const auto& [text, seconds] : said) EXPECT_DOUBLE_EQ(parse_length(text, "--x"), seconds) << text;
}

TEST(Lengths, ThatMeanNothingAreRefusedByName) {
  for (const char* text : {"", "abc", "0", "-5", "5 x", "1:2:3:4", "2:75", "1/0", "1e9", "30 s 2 h", "5..2",
                           "1h 30 q", "1000000 d", "nan", "inf", ":30"}) {
    const Error e = test::error_of([&] { parse_length(text, "--clip"); });
    EXPECT_EQ(e.kind(), Error::Kind::BadInput) << text;
    EXPECT_NE(std::string(e.what()).find("--clip"), std::string::npos) << e.what();
  }
}

TEST(Lengths, AreWrittenWithNoMoreDigitsThanTheyDeserve) {
  EXPECT_EQ(format_length(4.8), "4.8 s");
  EXPECT_EQ(format_length(1197.5), "19 min 58 s");
  EXPECT_EQ(format_length(7196), "1 h 59 min 56 s");
  EXPECT_EQ(format_length(59.999, 1), "1 min");
  EXPECT_EQ(format_length(60), "1 min");
  EXPECT_EQ(format_length(99 * 3600.0), "99 h");
  EXPECT_EQ(format_length(51 * 3600.0 * 10), "21 d 6 h");
  EXPECT_EQ(format_shutter(0.008), "1/125 s");
  EXPECT_EQ(format_shutter(2.5), "2.5 s");
  EXPECT_EQ(format_shutter(0.75), "0.8 s");
  EXPECT_EQ(format_shutter(300), "5 min");
  EXPECT_EQ(format_count(1234567), "1,234,567");
  // Whatever is written can be read again, to within what was written.
  for (double s = 0.1; s < 360000; s *= 1.37)
    EXPECT_NEAR(parse_length(format_length(s), "x"), s, std::max(0.006, s < 60 ? 0 : 0.51)) << s;
}

TEST(FrameRates, StayExact) {
  EXPECT_EQ(parse_frame_rate("24000/1001", "--fps"), (FrameRate{24000, 1001}));
  EXPECT_EQ(parse_frame_rate("23.976", "--fps"), (FrameRate{24000, 1001}));
  EXPECT_EQ(parse_frame_rate("29.97", "--fps"), (FrameRate{30000, 1001}));
  EXPECT_EQ(parse_frame_rate("25 fps", "--fps"), (FrameRate{25, 1}));
  EXPECT_EQ(parse_frame_rate("50/2", "--fps"), (FrameRate{25, 1}));
  EXPECT_EQ(parse_frame_rate("240", "--fps"), (FrameRate{240, 1}));
  for (const char* text : {"0", "-25", "x", "25/0", "5000", "0.5"})
    EXPECT_EQ(test::error_of([&] { parse_frame_rate(text, "--fps"); }).kind(), Error::Kind::BadInput) << text;
}

TEST(Clocks, FollowTheZoneThroughItsChanges) {
  const std::string zone = "Europe/London";
  const Instant summer = parse_wall_time("2026-10-09 18:34", zone),
                winter = parse_wall_time("2026-11-09 18:34", zone);
  EXPECT_EQ(format_iso(summer, zone), "2026-10-09T18:34:00+01:00");
  EXPECT_EQ(format_iso(winter, zone), "2026-11-09T18:34:00+00:00");
  EXPECT_EQ(seconds_between(summer, winter), 31 * 86400 + 3600);
  const Error skipped = test::error_of([&] { parse_wall_time("2026-03-29 01:30", zone); });
  EXPECT_NE(std::string(skipped.what()).find("skip"), std::string::npos);
  EXPECT_EQ(test::error_of([&] { parse_wall_time("2026-02-30 01:30", zone); }).kind(), Error::Kind::BadInput);
  EXPECT_EQ(test::error_of([&] { wall_time(summer, "Nowhere/Land"); }).kind(), Error::Kind::BadInput);
}

}  // namespace
}  // namespace askcount
