// SPDX-License-Identifier: GPL-3.0-or-later
// Following the light by clicks, and the sun that makes it.
#include "ramp/follow.h"

#include "base/dials.h"
#include "media/metadata.h"
#include "sky/ambient.h"
#include "sky/sun.h"
#include "support.h"

namespace askcount {
namespace {

double meter_of(const std::vector<double>& light, const std::vector<ramp::Exposure>& chain, size_t n) {
  return ramp::meter_stops(light[n], chain[n]);
}

TEST(Ramp, KeepsTheMeterInItsBandByClicksOfAThird) {
  for (const bool falling : {true, false}) {
    std::vector<double> light;
    for (int n = 0; n < 600; ++n) light.push_back(falling ? 9 - 0.02 * n : -3 + 0.02 * n);
    const ramp::RampRule rule;
    const auto chain = ramp::follow_light(light, rule);
    ASSERT_EQ(chain.size(), light.size());
    long last_click = -100;
    for (size_t n = 0; n < chain.size(); ++n) {
      EXPECT_LE(meter_of(light, chain, n), 0.05);
      EXPECT_GE(meter_of(light, chain, n), -1.05);
      EXPECT_LE(chain[n].shutter_s, rule.longest_shutter_s * 1.001);
      EXPECT_GE(chain[n].f_number, rule.widest_f * 0.98);
      if (n == 0 || chain[n] == chain[n - 1]) continue;
      EXPECT_NEAR(std::abs(ramp::stops_of(chain[n]) - ramp::stops_of(chain[n - 1])), 1.0 / 3, 1e-9);
      EXPECT_GE(static_cast<long>(n) - last_click, rule.frames_apart_late);
      last_click = static_cast<long>(n);
    }
  }
}

TEST(Ramp, TurnsShutterThenApertureThenIso) {
  std::vector<double> light;
  for (int n = 0; n < 1500; ++n) light.push_back(9 - 0.012 * n);
  const auto chain = ramp::follow_light(light, {});
  int stage = 0;  // 0 shutter, 1 aperture, 2 ISO
  for (size_t n = 1; n < chain.size(); ++n) {
    if (chain[n] == chain[n - 1]) continue;
    const int now = chain[n].shutter_s != chain[n - 1].shutter_s ? 0
                    : chain[n].f_number != chain[n - 1].f_number ? 1
                                                                 : 2;
    EXPECT_GE(now, stage) << "frame " << n;
    stage = now;
  }
  EXPECT_EQ(stage, 2);
}

TEST(Dials, MarksStandForExactThirds) {
  EXPECT_NEAR(exact_shutter(1 / 125.0), 1 / 128.0, 1e-9);
  EXPECT_NEAR(exact_shutter(1 / 160.0), std::exp2(-22 / 3.0), 1e-9);
  EXPECT_NEAR(exact_shutter(13), std::exp2(11 / 3.0), 1e-9);
  EXPECT_NEAR(exact_f_number(5.6), std::exp2(2.5), 1e-9);
  EXPECT_NEAR(exact_f_number(13), std::exp2(22 / 6.0), 1e-9);
  EXPECT_NEAR(exact_iso(640), 100 * std::exp2(8 / 3.0), 1e-9);
  for (int third = -36; third <= 15; ++third) {
    const double exact = std::exp2(third / 3.0);
    EXPECT_NEAR(exact_shutter(marked_shutter(exact)) / exact, 1, 1e-9) << third;
  }
  for (int third = 0; third <= 30; ++third) {
    const double exact = std::exp2(third / 6.0);
    EXPECT_NEAR(exact_f_number(marked_f_number(exact)) / exact, 1, 1e-9) << third;
  }
  EXPECT_NEAR(exact_shutter(0.0271), 0.0271, 1e-9);  // no mark: taken as it is
}

// Meeus, Astronomical Algorithms, example 25.b: on 1992-10-13 at 0h TD the sun stands at right ascension
// 198.38082°, declination −7.78507°. Sidereal time by his formula 12.4.
TEST(Sun, StandsWhereTheWorkedExamplePutsIt) {
  const Instant t = parse_wall_time("1992-10-13 00:00", "UTC") - std::chrono::seconds(59);
  const double jd = 2448908.5 - 59.0 / 86400, centuries = (jd - 2451545) / 36525;
  double sidereal = 280.46061837 + 360.98564736629 * (jd - 2451545) + 0.000387933 * centuries * centuries;
  sidereal = std::fmod(std::fmod(sidereal, 360) + 360, 360);
  double longitude = 198.38082 - sidereal;
  longitude = std::fmod(longitude + 540, 360) - 180;
  EXPECT_GT(sky::sun_at(t, {"below it", -7.78507, longitude, "UTC"}).altitude_deg, 89.98);
  const sky::Direction south = sky::sun_at(t, {"north of it", 42.21493, longitude, "UTC"});
  EXPECT_NEAR(south.altitude_deg, 40, 0.02);
  EXPECT_NEAR(south.azimuth_deg, 180, 0.05);
}

TEST(Sun, FallsWhenItShouldOrNotAtAll) {
  const sky::Place pole{"high north", 80, 15, "UTC"}, quay{"quay", 56.1, -5.5, "Europe/London"};
  const Instant june = parse_wall_time("2026-06-21 00:00", "UTC");
  EXPECT_FALSE(sky::sun_falls_through(sky::kSunDown_deg, pole, june, june + std::chrono::hours(24)));
  const Instant day = parse_wall_time("2026-10-09 12:00", quay.zone);
  const auto down = sky::sun_falls_through(sky::kSunDown_deg, quay, day, day + std::chrono::hours(12));
  ASSERT_TRUE(down);
  EXPECT_NEAR(sky::sun_at(*down, quay).altitude_deg, sky::kSunDown_deg, 0.005);
  const auto track = sky::sun_altitudes(quay, day, day + std::chrono::hours(10), 400);
  EXPECT_NEAR(track[200],
              sky::sun_at(day + std::chrono::milliseconds(36000000LL * 200 / 399), quay).altitude_deg, 0.1);
}

// US Naval Observatory Circular 171, in its own words: about 3.4 lux at the end of civil twilight, 0.008 at
// the end of nautical twilight; and no jumps where its pieces meet.
TEST(Daylight, FollowsTheCircular) {
  EXPECT_NEAR(sky::daylight_lux(-6), 3.4, 0.2);
  EXPECT_NEAR(sky::daylight_lux(-12), 0.008, 0.001);
  EXPECT_NEAR(sky::daylight_lux(90) / 1.3e5, 1, 0.1);
  for (double a = -17.9; a < 89; a += 0.05)
    EXPECT_LT(std::abs(std::log2(sky::daylight_lux(a + 0.05) / sky::daylight_lux(a))), 0.09) << a;
}

}  // namespace
}  // namespace askcount
