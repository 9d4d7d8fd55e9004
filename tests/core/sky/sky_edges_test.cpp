// SPDX-License-Identifier: GPL-3.0-or-later
// The sky's sums where one thing turns into another, and the frame's: against spherical trigonometry done by
// hand.
#include "sky/events.h"
#include "sky/framing.h"
#include "sky/night_sky.h"
#include "sky/place.h"
#include "support.h"

namespace askcount::sky {
namespace {

TEST(SeaHorizon, DipsByTheRootOfTheHeight) {
  EXPECT_EQ(sea_horizon_dip_deg(0), 0);
  EXPECT_NEAR(sea_horizon_dip_deg(100), 17.6 / 60, 1e-9);
  EXPECT_NEAR(sea_horizon_dip_deg(25) * 2, sea_horizon_dip_deg(100), 1e-9);
}

TEST(CheckPlace, RefusesWhatIsNotOnTheGlobe) {
  Place p{"Here", 56.1, -5.5, "Europe/London"};
  EXPECT_NO_THROW(check_place(p));
  for (const auto& [lat, lon, zone] : std::vector<std::tuple<double, double, const char*>>{
           {90.1, 0, "UTC"}, {-90.1, 0, "UTC"}, {0, 180.1, "UTC"}, {0, -180.1, "UTC"}, {0, 0, "Nowhere"}}) {
    Place bad{"Here", lat, lon, zone};
    EXPECT_EQ(test::error_of([&] { check_place(bad); }).kind(), Error::Kind::BadInput) << lat << " " << lon;
  }
  for (const double edge : {90.0, -90.0}) EXPECT_NO_THROW(check_place({"Pole", edge, 180, "UTC"}));
}

TEST(Optics, SeesWhatALensSees) {
  Optics o;
  o.focal_mm = 18;
  EXPECT_NEAR(o.across_deg(), 90, 1e-9);  // 36 mm at 18 mm
  EXPECT_NEAR(o.down_deg(), 2 * std::atan(12.0 / 18) * 180 / std::numbers::pi, 1e-9);
  EXPECT_EQ(o.film_across(), 1);
  EXPECT_EQ(o.film_down(), 1);
  o.film_shape = 16.0 / 9;  // wider than 3:2: all the width, less of the height
  EXPECT_EQ(o.film_across(), 1);
  EXPECT_NEAR(o.film_down(), (36 / (16.0 / 9)) / 24, 1e-9);
  o.film_shape = 1;
  EXPECT_NEAR(o.film_across(), 24.0 / 36, 1e-9);
  EXPECT_EQ(o.film_down(), 1);
}

TEST(Project, PutsDirectionsWhereTheLensDoes) {
  Optics o;
  o.focal_mm = 18;
  const Aim south{180, 0, 0};
  const auto middle = project({0, 180}, south, o);
  ASSERT_TRUE(middle);
  EXPECT_NEAR(middle->x, 0, 1e-12);
  EXPECT_NEAR(middle->y, 0, 1e-12);
  // 45° to the right (west, facing south) is the edge of a 90° lens; 30° up is tan 30° × 18 mm of 24 mm.
  EXPECT_NEAR(project({0, 225}, south, o)->x, 0.5, 1e-9);
  EXPECT_NEAR(project({0, 135}, south, o)->x, -0.5, 1e-9);
  EXPECT_NEAR(project({30, 180}, south, o)->y, std::tan(std::numbers::pi / 6) * 18 / 24, 1e-9);
  EXPECT_FALSE(project({0, 0}, south, o)) << "behind the camera";
  EXPECT_FALSE(project({0, 270.001}, south, o));
  EXPECT_TRUE(inside({0.5, 0.5}, o, true));
  EXPECT_FALSE(inside({0.501, 0}, o, true));
  EXPECT_FALSE(inside({0, -0.501}, o, true));
  o.film_shape = 16.0 / 9;
  EXPECT_TRUE(inside({0, 0.42}, o));
  EXPECT_FALSE(inside({0, 0.43}, o)) << "on the sensor, not in the film";
  EXPECT_TRUE(inside({0, 0.43}, o, true));
  // Rolled clockwise, what was right of the middle lies above it.
  const auto rolled = project({0, 225}, {180, 0, 90}, o);
  EXPECT_NEAR(rolled->x, 0, 1e-9);
  EXPECT_NEAR(std::abs(rolled->y), 0.75, 1e-9);
  // And back again, anywhere.
  for (const Aim& aim : {Aim{248, 9, 0}, Aim{10, -20, 15}, Aim{359, 60, -30}})
    for (const FramePoint& p : {FramePoint{0.1, 0.2}, FramePoint{-0.45, -0.3}}) {
      const auto again = project(direction_of(p, aim, o), aim, o);
      ASSERT_TRUE(again);
      EXPECT_NEAR(again->x, p.x, 1e-9);
      EXPECT_NEAR(again->y, p.y, 1e-9);
    }
}

TEST(AimAt, TurnsTheShorterWayAndEasesBothEnds) {
  Move m{{350, 0, 0}, {10, 20, 4}, false};
  EXPECT_NEAR(aim_at(m, 0.5).bearing_deg, 0, 1e-9);
  EXPECT_NEAR(aim_at(m, 0.25).bearing_deg, 355, 1e-9);
  EXPECT_NEAR(aim_at(m, 0.25).tilt_deg, 5, 1e-9);
  EXPECT_NEAR(aim_at(m, 1).roll_deg, 4, 1e-9);
  m.eased = true;
  EXPECT_NEAR(aim_at(m, 0.25).tilt_deg, 20 * (3 * 0.0625 - 2 * 0.015625), 1e-9);
  EXPECT_NEAR(aim_at(m, 0.5).tilt_deg, 10, 1e-9);
  EXPECT_NEAR(aim_at({{10, 0, 0}, {350, 0, 0}, false}, 0.5).bearing_deg, 0, 1e-9) << "the other way too";
}

TEST(Horizon, IsALineBetweenWhatWasRaised) {
  EXPECT_EQ(horizon_at({}, 123), 0);
  const std::vector<HorizonPoint> ridge = {{90, 2}, {180, 10}, {270, 4}};
  EXPECT_NEAR(horizon_at(ridge, 90), 2, 1e-9);
  EXPECT_NEAR(horizon_at(ridge, 135), 6, 1e-9);
  EXPECT_NEAR(horizon_at(ridge, 225), 7, 1e-9);
  EXPECT_NEAR(horizon_at(ridge, 0), 3, 1e-9) << "round by the north";
  EXPECT_NEAR(horizon_at(ridge, 360), horizon_at(ridge, 0), 1e-9);
}

TEST(NightSky, IsAsBrightAsItsMagnitudesSay) {
  EXPECT_NEAR(luminance_of_mag(kNaturalGlow_mag), 1.7e-4, 0.1e-4);
  EXPECT_NEAR(luminance_of_mag(20) / luminance_of_mag(21), std::exp(0.92104), 1e-6) << "a magnitude";
  for (const double mag : {17.0, 19.5, 22.0}) EXPECT_NEAR(mag_of_luminance(luminance_of_mag(mag)), mag, 1e-9);
  EXPECT_NEAR(ev100_of_luminance(0.125), 0, 1e-9);  // L × 100 ÷ 12.5 = 1
  EXPECT_NEAR(ev100_of_luminance(4096), 15, 1e-9);
  double before = 99;
  for (const PlaceDarkness& place : place_darknesses()) {
    EXPECT_LT(place.mag, before) << place.word << ": darkest first";
    before = place.mag;
    EXPECT_DOUBLE_EQ(parse_darkness(place.word), place.mag);
  }
  EXPECT_DOUBLE_EQ(parse_darkness("20.5"), 20.5);
  for (const char* bad : {"14.9", "23.1", "dim", ""})
    EXPECT_EQ(test::error_of([&] { parse_darkness(bad); }).kind(), Error::Kind::BadInput) << bad;
  EXPECT_GT(glow_luminance(22, 10), glow_luminance(22, 90)) << "more air near the horizon";
  EXPECT_NEAR(glow_luminance(22, 90), luminance_of_mag(22), 1e-8);
  EXPECT_EQ(moonlit_luminance(-1, 0, 60, 45), 0) << "the moon is down";
  // It rises by its height and not all at once: under the glow of the sky at first, over minutes.
  const double glow = glow_luminance(22, 45);
  EXPECT_LT(std::log2(1 + moonlit_luminance(0.01, 0, 60, 45) / glow), 0.2) << "1.1 all at once";
  for (double h = 0; h < 30; h += 0.25)
    EXPECT_LT(
        std::log2((glow + moonlit_luminance(h + 0.25, 0, 60, 45)) / (glow + moonlit_luminance(h, 0, 60, 45))),
        0.35)
        << h;
  EXPECT_NEAR(moonlit_luminance(9.999, 0, 60, 45) / moonlit_luminance(10.001, 0, 60, 45), 1, 1e-3);
  EXPECT_GT(moonlit_luminance(40, 0, 60, 45), 10 * moonlit_luminance(40, 90, 60, 45)) << "full and half";
  EXPECT_GT(moonlit_luminance(40, 0, 5, 45), moonlit_luminance(40, 0, 60, 45)) << "near it";
  EXPECT_EQ(shows_stops(Shows::LitSky), 2);
  EXPECT_EQ(shows_stops(Shows::Half), 1);
  EXPECT_EQ(shows_stops(Shows::Ground), 0);
  EXPECT_EQ(shows_stops(Shows::AwayFromSun), -0.5);
}

/// The sun passes its own noon altitude once, and every lower one twice; a grazing one is found too.
TEST(Crossings, AreAllFoundAndSaidWhichWay) {
  const Place place{"Tern Quay", 56.1, -5.5, "Europe/London"};
  const Instant from = parse_instant("2026-06-21T00:00:00Z", "UTC"), to = later(from, 86400);
  const Ephemeris sky(from, to);
  const auto sets = crossings_of(sky, Body::Sun, 0, place, from, to);
  ASSERT_EQ(sets.size(), 2u);
  EXPECT_TRUE(sets[0].rising);
  EXPECT_FALSE(sets[1].rising);
  for (const Crossing& c : sets) EXPECT_NEAR(sky.at(Body::Sun, c.at, place).altitude_deg, 0, 0.01);
  const auto noon = transit_of(sky, Body::Sun, place, from, to);
  ASSERT_TRUE(noon);
  const double highest = sky.at(Body::Sun, *noon, place).altitude_deg;
  EXPECT_NEAR(highest, 90 - 56.1 + 23.44, 0.05);
  EXPECT_NEAR(sky.at(Body::Sun, *noon, place).azimuth_deg, 180, 0.2);
  EXPECT_TRUE(crossings_of(sky, Body::Sun, highest + 0.5, place, from, to).empty());
  EXPECT_EQ(crossings_of(sky, Body::Sun, highest - 0.01, place, from, to).size(), 2u) << "grazing";
  EXPECT_FALSE(transit_of(sky, Body::Sun, place, from, later(from, 3600))) << "not in the small hours";
}

TEST(Ephemeris, SaysTheSameOfAMomentHoweverLongItsStretch) {
  // Who looked at a year of nights before sees a night no differently: the equinox is that of the date.
  const Instant at = parse_instant("2026-08-12T23:10:00Z", "UTC");
  const Place head{"Gannet Head", 58.4, -6.2, "Europe/London", 0};
  const Ephemeris night(at - std::chrono::hours(5), at + std::chrono::hours(5));
  const Ephemeris year(at - std::chrono::hours(24 * 300), at + std::chrono::hours(24 * 60));
  for (const Body body : {Body::Sun, Body::Moon, Body::Core}) {
    const Direction a = night.at(body, at, head), b = year.at(body, at, head);
    EXPECT_NEAR(a.altitude_deg, b.altitude_deg, 1.0 / 3600) << body_word(body);  // a second of arc
    EXPECT_NEAR(a.azimuth_deg, b.azimuth_deg, 1.0 / 3600) << body_word(body);
  }
  EXPECT_NEAR(night.band(at, head)[20].altitude_deg, year.band(at, head)[20].altitude_deg, 1.0 / 3600);
}

}  // namespace
}  // namespace askcount::sky
