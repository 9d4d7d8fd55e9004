// SPDX-License-Identifier: GPL-3.0-or-later
// Sums of the plan at their edges: what happens exactly where one thing turns into another.
#include "base/cold.h"
#include "base/dials.h"
#include "base/frame_rate.h"
#include "base/median.h"
#include "plan/close_up.h"
#include "plan/exposure_match.h"
#include "plan/measures.h"
#include "plan/rulers.h"
#include "plan/shot_cycle.h"
#include "plan/ways.h"
#include "support.h"
#include "timer/program.h"

namespace askcount::plan {
namespace {

TEST(ColdShare, FallsBySixTenthsOfTheScaleAndStops) {
  EXPECT_DOUBLE_EQ(cold_share(20), 1);
  EXPECT_DOUBLE_EQ(cold_share(35), 1) << "warmth gives nothing";
  EXPECT_DOUBLE_EQ(cold_share(0), 0.7);
  EXPECT_DOUBLE_EQ(cold_share(-20), 0.4);
  EXPECT_DOUBLE_EQ(cold_share(-60), 0.3) << "never less";
  EXPECT_DOUBLE_EQ(cold_share(0, 10), 0.85) << "against what it was rated at";
}

TEST(Median, IsTheUpperOfTwo) {
  EXPECT_EQ(median({}), 0);
  EXPECT_EQ(median({7}), 7);
  EXPECT_EQ(median({9, 1}), 9);
  EXPECT_EQ(median({5, 1, 9}), 5);
  EXPECT_EQ(median({4, 1, 3, 2}), 3);
}

TEST(Dials, MarksStandForThirdsOfAStop) {
  EXPECT_DOUBLE_EQ(exact_shutter(1.0 / 125), std::exp2(-7));
  EXPECT_DOUBLE_EQ(exact_shutter(1.0 / 60), std::exp2(-6));
  EXPECT_DOUBLE_EQ(exact_shutter(30), 32);
  EXPECT_NEAR(exact_f_number(5.6), std::exp2(2.5), 1e-12);
  EXPECT_NEAR(exact_iso(125), 100 * std::cbrt(2), 1e-9);
  EXPECT_DOUBLE_EQ(exact_shutter(0.777), 0.777) << "no mark is near";
  EXPECT_DOUBLE_EQ(marked_shutter(std::exp2(-7)), 1.0 / 125);
  EXPECT_DOUBLE_EQ(marked_iso(100 * std::cbrt(2)), 125);
  EXPECT_DOUBLE_EQ(marked_iso(100 * std::cbrt(4)), 160);
  EXPECT_DOUBLE_EQ(marked_iso(800), 800);
  EXPECT_DOUBLE_EQ(marked_f_number(std::exp2(1.5)), 2.8);
}

TEST(NearestFrameRate, KeepsTheFractionsThatFilmHas) {
  EXPECT_EQ(nearest_frame_rate(25), (FrameRate{25, 1}));
  EXPECT_EQ(nearest_frame_rate(23.976), (FrameRate{24000, 1001}));
  EXPECT_EQ(nearest_frame_rate(29.97), (FrameRate{30000, 1001}));
  EXPECT_EQ(nearest_frame_rate(59.94006), (FrameRate{60000, 1001}));
  EXPECT_EQ(nearest_frame_rate(12.5).value(), 12.5);
  EXPECT_NEAR(nearest_frame_rate(23.9).value(), 23.9, 1e-9) << "too far to be the other";
  EXPECT_EQ(frame_rate_words({25, 1}), "25 fps");
  EXPECT_EQ(frame_rate_words({24000, 1001}), "23.976 fps");
  EXPECT_EQ(parse_frame_rate("1", "fps").value(), 1);
  EXPECT_EQ(parse_frame_rate("1000", "fps").value(), 1000) << "both ends are within";
  for (const char* bad : {"0.999", "1000.1", "0", "1/2", "25/0"})
    EXPECT_EQ(test::error_of([&] { parse_frame_rate(bad, "fps"); }).kind(), Error::Kind::BadInput) << bad;
  for (const double bad : {0.5, 1001.0, -25.0, 0.0})
    EXPECT_EQ(test::error_of([&] { nearest_frame_rate(bad); }).kind(), Error::Kind::BadInput) << bad;
}

TEST(CloseUp, IsByTheThinLens) {
  Body body;
  body.sensor_width_mm = 36;
  body.pixels_across = 6000;  // 6 µm a pixel
  EXPECT_DOUBLE_EQ(body.pixel_um(), 6);
  const CloseUp same = close_up(body, 1, 8, 30);
  EXPECT_NEAR(same.depth_mm, 2 * 8 * 0.030 * 2 / 1, 1e-9);  // 2 × N × c × (m + 1) ÷ m²
  EXPECT_NEAR(same.light_lost_stops, 2, 1e-9);
  EXPECT_NEAR(same.effective_f, 16, 1e-9);
  EXPECT_NEAR(same.field_width_mm, 36, 1e-9);
  const CloseUp half = close_up(body, 0.5, 4);
  EXPECT_NEAR(half.depth_mm, 2 * 4 * 0.012 * 1.5 / 0.25, 1e-9) << "two pixels where nothing is said";
  EXPECT_NEAR(half.field_width_mm, 72, 1e-9);
  // It grows 0.1 mm an hour towards the lens; half of 0.96 mm lies before the focus: 4.8 hours.
  Sums sums;
  sums.interval_s = 360;  // ten frames an hour
  sums.frames = 1000;
  sums.field_s = 999 * 360;
  const auto frames = refocus_every(same, 0.1, sums);
  ASSERT_TRUE(frames);
  EXPECT_NEAR(static_cast<double>(*frames), 48, 1);
  EXPECT_FALSE(refocus_every(same, 0, sums)) << "what does not grow stays";
  EXPECT_FALSE(refocus_every(same, 0.001, sums)) << "nor does it within the take";
}

TEST(Diffraction, FromTwoPixelsOn) {
  EXPECT_NEAR(diffraction_f(6), 2 * 6 / (2.44 * 0.55), 1e-9);
  EXPECT_NEAR(diffraction_f(3), diffraction_f(6) / 2, 1e-9);
}

TEST(UsualStep, HasNoMoreTicksThanAsked) {
  for (const double length : {1.0, 7.0, 59.0, 61.0, 3599.0, 7201.0, 86400.0, 5 * 86400.0})
    for (const int most : {2, 5, 12}) {
      const double step = usual_step(length, most);
      EXPECT_LE(length / step, most + 1e-9) << length << " by " << most;
    }
  EXPECT_EQ(usual_step(10, 5), 2);
  EXPECT_EQ(usual_step(3600, 6), 600);
  EXPECT_EQ(usual_step(6 * 3600, 6), 3600);
  const Ruler film = film_ruler(10, 6);
  EXPECT_EQ(film.from, 0);
  EXPECT_EQ(film.to, 10);
  EXPECT_EQ(film.ticks(), (std::vector<Seconds>{0, 2, 4, 6, 8, 10}));
}

TEST(HeardEvery, CountsPressesOfABusyCamera) {
  EXPECT_EQ(heard_every(0.9, 1), 1);
  EXPECT_EQ(heard_every(1, 1), 1) << "just in time";
  EXPECT_EQ(heard_every(1.01, 1), 2);
  EXPECT_EQ(heard_every(3.5, 1), 4);
  EXPECT_NE(heard_words(2), heard_words(3));
}

TEST(ShotMb, AddsWhatIsKept) {
  Body body;
  body.raw_mb = 30;
  body.compressed_mb = 8;
  ShotMake make;
  make.raw = true, make.compressed = false;
  EXPECT_DOUBLE_EQ(shot_mb(make, body), 30);
  make.compressed = true;
  EXPECT_DOUBLE_EQ(shot_mb(make, body), 38);
  make.brackets = 3;
  EXPECT_DOUBLE_EQ(shot_mb(make, body), 114);
  make.raw = false;
  EXPECT_DOUBLE_EQ(shot_mb(make, body), 24);
}

TEST(NearbyIntervals, AreHalfThisTheNextAndDouble) {
  const auto at = nearby_intervals(20);
  ASSERT_EQ(at.size(), 4u);
  EXPECT_EQ(at[0], 10);
  EXPECT_EQ(at[1], 20);
  EXPECT_GT(at[2], 20);
  EXPECT_LE(at[2], 30);
  EXPECT_EQ(at[3], 40);
  EXPECT_TRUE(std::is_sorted(at.begin(), at.end()));
}

TEST(Stopwatch, GivesTheMeanAndItsSpread) {
  const Measure three = stopwatch({10, 12, 14});
  EXPECT_DOUBLE_EQ(three.crossing_s, 12);
  EXPECT_DOUBLE_EQ(three.spread_s, 2);  // of a sample: √(8 ÷ 2)
  EXPECT_EQ(three.taps, 3);
  EXPECT_EQ(stopwatch({33}).spread_s, 0);
  EXPECT_EQ(test::error_of([] { stopwatch({}); }).kind(), Error::Kind::BadInput);
  // 12 s in the field as 4 s on the screen is three times faster: at 25 fps a frame every 0.12 s.
  EXPECT_NEAR(interval_for(three, 4, 25), 0.12, 1e-12);
  EXPECT_TRUE(judge(std::vector<Measure>{three}).empty());
  Measure other = three;
  other.crossing_s = 17.9;
  const auto worst = [](const Findings& all) {
    Severity s = Severity::Ok;
    for (const Finding& f : all) s = f.severity == Severity::Warning ? f.severity : s;
    return s;
  };
  EXPECT_EQ(worst(judge({three, other})), Severity::Ok);
  other.crossing_s = 18.2;
  EXPECT_EQ(worst(judge({three, other})), Severity::Warning) << "more than half as long again";
}

TEST(MotionWord, ChangesWhereThePanningRuleSays) {
  EXPECT_STREQ(motion_word(7, 0.006, 0.5), "calm");
  EXPECT_STREQ(motion_word(6.99, 0.006, 0.5), "natural");
  EXPECT_STREQ(motion_word(3.5, 0.011, 0.5), "natural");
  EXPECT_STREQ(motion_word(3.49, 0.011, 0.5), "lively");
  EXPECT_STREQ(motion_word(1, 0.051, 0.2), "broken up");
  EXPECT_STREQ(motion_word(1, 0.051, 0.8), "lively") << "trails bridge it";
  EXPECT_STREQ(motion_word(1, 0.049, 0), "lively");
}

TEST(TimerDigits, AreThoseOfItsDisplay) {
  EXPECT_EQ(timer::timer_digits(24, 1), "00:00:24");
  EXPECT_EQ(timer::timer_digits(3723, 1), "01:02:03");
  EXPECT_EQ(timer::timer_digits(4.8, 0.1), "00:00:04.8");
  EXPECT_EQ(timer::timer_digits(59.96, 0.1), "00:01:00.0") << "rounded up over the minute";
}

}  // namespace
}  // namespace askcount::plan
