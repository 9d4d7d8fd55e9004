// SPDX-License-Identifier: GPL-3.0-or-later
// The sky against an independent ephemeris, what crosses the frame, and when to shoot.
#include <cmath>

#include "base/json.h"
#include "sky/ambient.h"
#include "sky/framing.h"
#include "sky/panorama.h"
#include "sky/weather.h"
#include "sky/windows.h"
#include "support.h"

namespace askcount::sky {
namespace {

constexpr double kRad = 3.14159265358979 / 180;

TEST(Sky, AgreesWithAnIndependentEphemeris) {
  const Json table = read_json(test::fs::path(ASKCOUNT_SOURCE) / "tests/data/sky_reference.json");
  ASSERT_GT(table["rows"].size(), 35u);
  int times = 0;
  for (const Json& row : table["rows"]) {
    const Place place{row["place"], row["latitude_deg"], row["longitude_deg"], row["zone"]};
    const std::string where = place.name + " " + row["date"].get<std::string>();
    const DayEvents events = events_of(parse_day(row["date"].get<std::string>()), place);
    for (const auto& [key, want] : row["events"].items()) {
      const auto got = events[key];
      ASSERT_EQ(got.has_value(), !want.is_null()) << where << " " << key;
      if (!got) {
        EXPECT_FALSE(events.reasons.at(key).empty()) << where << " " << key;
        continue;
      }
      ++times;
      EXPECT_NEAR(seconds_between(parse_instant(want.get<std::string>(), "UTC"), *got), 0, 60)
          << where << " " << key;
    }
    EXPECT_NEAR(events.moon_lit, row["moon_lit"].get<double>(), 0.002) << where;
    const Instant at = parse_instant(row["at"].get<std::string>(), "UTC");
    const Ephemeris sky(at, at);
    for (const Body body : {Body::Sun, Body::Moon, Body::Core}) {
      const Direction d = sky.at(body, at, place);
      const Json& want = row["positions"][body_word(body)];
      EXPECT_NEAR(d.altitude_deg, want[0].get<double>(), 0.1) << where << " " << body_word(body);
      EXPECT_NEAR(
          std::remainder(d.azimuth_deg - want[1].get<double>(), 360) * std::cos(d.altitude_deg * kRad), 0,
          0.1)
          << where << " " << body_word(body);
    }
  }
  EXPECT_GT(times, 400);
}

TEST(Sky, SaysWhyWhereNothingRises) {
  const Place far_north{"north", 78.2, 15.6, "Arctic/Longyearbyen"};
  const DayEvents summer = events_of(parse_day("2026-06-21"), far_north),
                  winter = events_of(parse_day("2026-12-21"), far_north);
  EXPECT_FALSE(summer["sunset"]);
  EXPECT_NE(summer.reasons.at("sunset").find("stays above"), std::string::npos);
  EXPECT_NE(winter.reasons.at("sunrise").find("stays below"), std::string::npos);
  EXPECT_NE(winter.reasons.at("core_rise").find("never rises"), std::string::npos);
  // A day of 23 hours: the clocks skip one, nothing is counted twice.
  const Place quay = demo_places().front();
  EXPECT_NEAR(seconds_between(day_start(parse_day("2026-03-29"), quay.zone),
                              day_start(parse_day("2026-03-30"), quay.zone)),
              23 * 3600, 1e-6);
  EXPECT_EQ(day_of(*events_of(parse_day("2026-03-29"), quay)["sunset"], quay.zone), parse_day("2026-03-29"));
}

TEST(Place, IsReadAsPeoplePasteIt) {
  for (const char* text :
       {"56.1, -5.5", "56.1 -5.5", "56.1N 5.5W", "N 56.1 W 5.5", "56°06'00\"N, 5°30'00\"W", "56 6 0 -5 30 0",
        "56° 6.0′ N 5° 30.0′ W", "5.5 W, 56.1 N", "lat 56.1, lon -5.5", "56.1° north 5.5° west"}) {
    const auto [lat, lon] = parse_coordinates(text);
    EXPECT_NEAR(lat, 56.1, 1e-9) << text;
    EXPECT_NEAR(lon, -5.5, 1e-9) << text;
  }
  for (const char* text : {"", "56.1", "91, 0", "0, 181", "here", "56 70 0 N 5 0 0 W", "1 2 3", "N 56 N 5"})
    EXPECT_EQ(test::error_of([&] { parse_coordinates(text); }).kind(), Error::Kind::BadInput) << text;
}

TEST(Light, FollowsTheCirculars) {
  // Worked from the circular's own polynomials: sun at 90° and on the horizon, full moon at the zenith.
  EXPECT_NEAR(daylight_lux(90), std::pow(10, 3.74 + 3.97 - 4.07 + 1.47), 1);
  EXPECT_NEAR(daylight_lux(0), std::pow(10, 2.88), 1);
  EXPECT_NEAR(moonlight_lux(90, 0, 384400), std::pow(10, -1.95 + 4.06 - 4.24 + 1.56), 0.02);
  EXPECT_LT(moonlight_lux(45, 90, 384400), moonlight_lux(45, 0, 384400) / 5);
  EXPECT_NEAR(ev100(2.5), 0, 1e-12);
  for (double a = -20; a < 60; a += 0.1)
    EXPECT_LT(std::abs(std::log2(daylight_lux(a + 0.1) / daylight_lux(a))), 0.2)
        << a;  // no jumps between the pieces
}

TEST(Frame, ProjectsAndComesBack) {
  const Optics optics{24, 36, 24, 16.0 / 9};
  EXPECT_NEAR(optics.across_deg(), 73.74, 0.01);
  EXPECT_NEAR(optics.film_down(), 0.84375, 1e-9);
  for (const Aim& aim : {Aim{248, 9, 0}, Aim{10, -20, 15}, Aim{90, 60, -40}})
    for (double x = -0.5; x <= 0.5; x += 0.25)
      for (double y = -0.5; y <= 0.5; y += 0.25) {
        const auto back = project(direction_of({x, y}, aim, optics), aim, optics);
        ASSERT_TRUE(back);
        EXPECT_NEAR(back->x, x, 1e-9);
        EXPECT_NEAR(back->y, y, 1e-9);
      }
  // 20° to the side of a level camera: focal length × tan 20° on the sensor.
  EXPECT_NEAR(project({0, 200}, {180, 0, 0}, optics)->x, 24 * std::tan(20 * kRad) / 36, 1e-9);
  EXPECT_FALSE(project({0, 0}, {180, 0, 0}, optics));
  EXPECT_NEAR(horizon_at({{350, 2}, {10, 6}}, 0), 4, 1e-9);  // across north
}

TEST(Frame, KnowsWhenTheSunLeavesAndHowToFollowTheCore) {
  const Place quay = demo_places().front();
  const Instant from = parse_wall_time("2026-10-09 17:00", quay.zone),
                to = parse_wall_time("2026-10-09 19:30", quay.zone);
  const auto sky = ephemeris_for(from, to);
  const Optics optics{24, 36, 24, 16.0 / 9};
  const auto sun =
      passages_of(*sky, Body::Sun, quay, {{{248, 9, 0}, {248, 9, 0}, false}, optics, {}}, {from, to});
  ASSERT_EQ(sun.size(), 1u);
  EXPECT_TRUE(sun[0].at_start);
  EXPECT_NEAR(sky->at(Body::Sun, sun[0].to, quay).altitude_deg, -0.3, 0.02);  // it leaves by setting
  // A hill of 6° takes it away earlier; a frame that looks elsewhere never sees it.
  EXPECT_LT(
      passages_of(*sky, Body::Sun, quay, {{{248, 9, 0}, {248, 9, 0}, false}, optics, {{0, 6}}}, {from, to})[0]
          .to,
      sun[0].to);
  EXPECT_TRUE(
      passages_of(*sky, Body::Sun, quay, {{{20, 9, 0}, {20, 9, 0}, false}, optics, {}}, {from, to}).empty());
  // The moving head: inside from the first shot to the last.
  const Place head = demo_places()[1];
  const Instant night = parse_wall_time("2026-07-15 22:30", head.zone),
                morning = parse_wall_time("2026-07-16 03:30", head.zone);
  const auto stars = ephemeris_for(night, morning);
  const Optics narrow{50, 36, 24, 16.0 / 9};
  EXPECT_LT(passages_of(*stars, Body::Core, head, {{{170, 30, 0}, {170, 30, 0}, false}, narrow, {}},
                        {night, morning})
                .size(),
            2u);
  for (const bool eased : {false, true}) {
    const auto move = move_that_keeps(*stars, Body::Core, head, narrow, {night, morning}, eased);
    ASSERT_TRUE(move);
    const auto kept = passages_of(*stars, Body::Core, head, {*move, narrow, {}}, {night, morning});
    ASSERT_EQ(kept.size(), 1u);
    EXPECT_TRUE(kept[0].at_start && kept[0].at_end);
  }
  EXPECT_FALSE(move_that_keeps(*sky, Body::Moon, quay, narrow, {from, to}, false));  // it sets on the way
}

TEST(When, SuggestsWindowsByTheirRules) {
  const Place head = demo_places()[1];
  const auto windows = windows_of(parse_day("2026-07-14"), head, 3600);
  const auto of = [&](const std::string& kind) -> const Window* {
    for (const Window& w : windows)
      if (w.kind == kind) return &w;
    return nullptr;
  };
  const auto kept = ephemeris_for(windows.front().from, windows.back().to);
  ASSERT_TRUE(of("day into night") && of("milky way") && of("sunrise"));
  const Instant sunset = *events_of(parse_day("2026-07-14"), head)["sunset"];
  EXPECT_GE(seconds_between(of("day into night")->start, sunset), 60 * 60 - 1);
  EXPECT_LE(seconds_between(of("day into night")->start, sunset), 90 * 60 + 1);
  const Window& milky = *of("milky way");
  for (int i = 0; i <= 10; ++i) {
    const Instant t = milky.from + (milky.to - milky.from) * i / 10;
    EXPECT_LT(kept->at(Body::Sun, t, head).altitude_deg, -18 + 0.01);
    EXPECT_LT(kept->at(Body::Moon, t, head).altitude_deg, 0);
    EXPECT_GE(kept->at(Body::Core, t, head).altitude_deg, 10 - 0.01);
  }
  EXPECT_GE(seconds_between(sunset, milky.from), 2 * 3600 - 1);
  std::vector<std::string> missing;
  windows_of(parse_day("2026-06-21"), {"north", 78.2, 15.6, "Arctic/Longyearbyen"}, 3600, &missing);
  EXPECT_FALSE(missing.empty());
  const auto nights = best_nights(parse_day("2026-07-01"), 30, head);
  ASSERT_GT(nights.size(), 5u);
  EXPECT_GE(nights[0].dark_s, nights[1].dark_s);
  EXPECT_LT(nights[0].moon_lit, 0.2);
}

TEST(Weather, WorksDewOutByMagnus) {
  // 20 °C at 50 %: 9.3 °C, as tables have it; saturated air is at its dew point.
  EXPECT_NEAR(dew_point_c(20, 0.5), 9.27, 0.02);
  EXPECT_NEAR(dew_point_c(3, 1), 3, 1e-9);
  Weather w;
  w.dew_point_c = 5;
  w.cooling_c_per_hour = 2;
  EXPECT_NEAR(*dew_after_s(w, 11, 1e6), (11 - 2 - 5) / 2.0 * 3600, 1e-6);
  EXPECT_FALSE(dew_after_s(w, 11, 3600));
  EXPECT_EQ(dew_after_s(w, 6, 3600), 0);
}

TEST(Panorama, ShowsAllOfTheFrameAtOneScale) {
  const Optics optics{24, 36, 24, 16 / 9.0};
  for (const Move& move : {Move{{248, 9, 0}, {248, 9, 0}, false}, Move{{350, 5, 0}, {30, 40, 0}, true},
                           Move{{90, -30, 0}, {90, -30, 0}, false}})
    for (const auto& [w, h] : {std::pair{900, 230}, {700, 150}, {400, 500}}) {
      const Panorama p = panorama_for(move, optics, w, h, 34);
      // A view of almost the whole horizon (a wide window, a tall move) cannot be shown smaller still.
      const bool whole = p.across_deg() > 350 - 1e-9;
      for (const Aim& aim : {move.from, move.to}) {
        if (whole) continue;
        EXPECT_GE(p.y_of(aim.tilt_deg + optics.down_deg() / 2), -0.5);
        EXPECT_LE(p.y_of(aim.tilt_deg - optics.down_deg() / 2), h + 0.5);
      }
      EXPECT_LE(p.across_deg(), 350 + 1e-9);
      // There and back.
      const Direction d = p.direction_at(0.3 * w, 0.4 * h);
      EXPECT_NEAR(p.x_of(d.azimuth_deg), 0.3 * w, 1e-6);
      EXPECT_NEAR(p.y_of(d.altitude_deg), 0.4 * h, 1e-6);
    }
}

TEST(Panorama, TurnsTheFrameAndRaisesTheHorizon) {
  Move move{{350, 80, 0}, {350, 80, 0}, false};
  turn(move, true, 20, 20, -200);
  EXPECT_EQ(move.from, move.to) << "a head that stands still has one aim";
  EXPECT_DOUBLE_EQ(move.from.bearing_deg, 10);
  EXPECT_DOUBLE_EQ(move.from.tilt_deg, 89);
  EXPECT_DOUBLE_EQ(move.from.roll_deg, -90);
  move.to.bearing_deg = 30;
  turn(move, true, -40, -9, 0);
  EXPECT_DOUBLE_EQ(move.to.bearing_deg, 350);
  EXPECT_DOUBLE_EQ(move.from.bearing_deg, 10);
  std::vector<HorizonPoint> horizon;
  raise(horizon, 252, 7.3);
  EXPECT_DOUBLE_EQ(horizon_at(horizon, 250), 7.5);
  EXPECT_DOUBLE_EQ(horizon_at(horizon, 240), 0);
  EXPECT_DOUBLE_EQ(horizon_at(horizon, 70), 0);
  raise(horizon, 250, 90);
  EXPECT_DOUBLE_EQ(horizon_at(horizon, 250), 60);
  EXPECT_TRUE(std::is_sorted(horizon.begin(), horizon.end(),
                             [](const auto& a, const auto& b) { return a.bearing_deg < b.bearing_deg; }));
}

}  // namespace
}  // namespace askcount::sky
