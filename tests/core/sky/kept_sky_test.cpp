// SPDX-License-Identifier: GPL-3.0-or-later
// The sky over made-up places and dates, held against what was kept. What is right is tested in sky_test.cpp,
// against other programs' positions.
#include <cmath>

#include "dice.h"
#include "kept.h"
#include "sky/ambient.h"
#include "sky/behind.h"
#include "sky/events.h"
#include "sky/framing.h"
#include "sky/night_sky.h"
#include "sky/panorama.h"
#include "sky/sun.h"
#include "sky/tint.h"
#include "sky/weather.h"
#include "sky/windows.h"
#include "support.h"

namespace askcount::sky {
namespace {

using test::Dice;

Place place_of(Dice& dice) {
  Place place;
  place.name = "Somewhere";
  place.latitude_deg = dice.between(-70, 72);
  place.longitude_deg = dice.between(-180, 180);
  place.zone = dice.one_of<std::string>({"UTC", "Europe/London", "Pacific/Auckland", "America/New_York"});
  return place;
}

Instant moment_of(Dice& dice) {
  return Instant(std::chrono::seconds(1767225600 + dice.whole(0, 3 * 365) * 86400 + dice.whole(0, 86399)));
}

long long s_of(Instant at) {
  return std::chrono::duration_cast<std::chrono::seconds>(at.time_since_epoch()).count();
}

Cover cover_of_dice(Dice& dice) {
  return dice.one_of<Cover>({Cover::Clear, Cover::Thin, Cover::Clouded, Cover::Dark});
}

TEST(KeptSky, PositionsAndLight) {
  Json kept = Json::array();
  for (unsigned seed = 1; seed <= 60; ++seed) {
    Dice dice(seed);
    const Place place = place_of(dice);
    const Instant at = moment_of(dice);
    const auto sky = ephemeris_for(at - std::chrono::hours(1), at + std::chrono::hours(30));
    Json one = Json::array();
    for (const Body body : {Body::Sun, Body::Moon, Body::Core}) {
      const Direction d = sky->at(body, at, place);
      one.push_back({d.altitude_deg, d.azimuth_deg});
    }
    const MoonFace moon = sky->moon(at);
    one.push_back({moon.lit, moon.phase_angle_deg, moon.waxing, moon.distance_km, moon.width_deg});
    const auto band = sky->band(at, place);
    one.push_back({band[7].altitude_deg, band[7].azimuth_deg, band[40].altitude_deg, band.size()});
    const Cover cover = cover_of_dice(dice);
    const double town = dice.chance(0.5) ? dice.between(0.1, 5) : 0;
    NightView view;
    view.zenith_mag = dice.between(16, 22);
    view.look = {dice.between(5, 85), dice.between(0, 360)};
    view.shows = dice.one_of<Shows>({Shows::Ground, Shows::Half, Shows::LitSky, Shows::AwayFromSun});
    const LandAndSky both = land_and_sky(*sky, at, place, cover, view);
    one.push_back({ambient_lux(*sky, at, place, cover, town),
                   std::log2(scene_luminance(*sky, at, place, cover, town, view)),
                   stops_per_minute(*sky, at, place, cover, town, view), both.land_ev, both.sky_ev,
                   std::log2(glow_luminance(view.zenith_mag, view.look.altitude_deg)),
                   std::log2(1e-9 + moonlit_luminance(dice.between(-5, 80), dice.between(0, 170),
                                                      dice.between(5, 150), view.look.altitude_deg))});
    if (const auto lamps = lamps_change(*sky, place, cover, at, at + std::chrono::hours(24)))
      one.push_back({s_of(lamps->from), s_of(lamps->to), lamps->on});
    one.push_back(look_words(*sky, at, place));
    const Direction sun = sun_at(at, place);
    one.push_back({sun.altitude_deg, sun.azimuth_deg, tint(sun.altitude_deg)[0], tint(sun.altitude_deg)[2]});
    kept.push_back(one);
  }
  test::hold(kept, "core/sky_light");
}

TEST(KeptSky, DaysWindowsAndNights) {
  Json kept = Json::array();
  for (unsigned seed = 101; seed <= 124; ++seed) {
    Dice dice(seed);
    const Place place = place_of(dice);
    const Day day = day_of(moment_of(dice), place.zone);
    Json one = {{"events", to_json(events_of(day, place), place)}};
    std::vector<std::string> missing;
    for (const Window& w : windows_of(day, place, dice.one_of<double>({600, 3600, 9000}), &missing))
      one["windows"].push_back({w.kind, s_of(w.from), s_of(w.to), s_of(w.start), w.reason, w.fits,
                                w.other_to ? s_of(*w.other_to) : 0});
    one["missing"] = missing;
    const auto nights = best_nights(day, 30, place);
    for (size_t i = 0; i < nights.size(); i += 6)
      one["nights"].push_back({nights[i].dark_s, s_of(nights[i].from), nights[i].moon_lit});
    const Instant from = day_start(day, place.zone), to = from + std::chrono::hours(40);
    const auto sky = ephemeris_for(from, to);
    for (const Darkness& d : darkness(*sky, place, from, to, dice.between(-90, 20)))
      one["dark"].push_back({s_of(d.from), s_of(d.to), d.core_highest_deg});
    for (const Crossing& c : moon_crossings(*sky, place, from, to))
      one["moon"].push_back({s_of(c.at), c.rising});
    kept.push_back(one);
  }
  test::hold(kept, "core/sky_days");
}

TEST(KeptSky, FramesSkylinesAndPanoramas) {
  Json kept = Json::array();
  for (unsigned seed = 201; seed <= 240; ++seed) {
    Dice dice(seed);
    const Place place = place_of(dice);
    const Instant from = moment_of(dice), to = from + std::chrono::hours(dice.whole(1, 20));
    const auto sky = ephemeris_for(from, to);
    Optics optics;
    optics.focal_mm = dice.one_of<double>({14, 24, 50, 85});
    optics.film_shape = dice.one_of<double>({0, 16.0 / 9, 1, 2.39});
    Move move;
    move.from = {dice.between(0, 360), dice.between(-10, 60), dice.between(-10, 10)};
    move.to = dice.chance(0.5) ? move.from : Aim{dice.between(0, 360), dice.between(-10, 60), 0};
    move.eased = dice.chance(0.5);
    std::vector<HorizonPoint> horizon;
    if (dice.chance(0.6))
      for (int i = 0; i < 6; ++i) raise(horizon, dice.between(0, 360), dice.between(-5, 40));
    const Body body = dice.one_of<Body>({Body::Sun, Body::Moon, Body::Core});
    Json one = Json::array();
    const Aim half = aim_at(move, dice.unit());
    one.push_back({half.bearing_deg, half.tilt_deg, half.roll_deg, optics.across_deg(), optics.down_deg(),
                   optics.film_across(), optics.film_down(), horizon_at(horizon, dice.between(0, 360))});
    if (const auto p = project(sky->at(body, from, place), half, optics))
      one.push_back({p->x, p->y, inside(*p, optics), inside(*p, optics, true)});
    const Direction back = direction_of({dice.between(-0.5, 0.5), dice.between(-0.5, 0.5)}, half, optics);
    one.push_back({back.altitude_deg, back.azimuth_deg});
    for (const Passage& p : passages_of(*sky, body, place, {move, optics, horizon}, {from, to}))
      one.push_back({s_of(p.from), s_of(p.to), p.at_start, p.at_end});
    if (const auto keeps =
            move_that_keeps(*sky, body, place, optics, {from, from + std::chrono::hours(2)}, move.eased))
      one.push_back(
          {keeps->from.bearing_deg, keeps->from.tilt_deg, keeps->to.bearing_deg, keeps->to.tilt_deg});
    for (const Behind& b : behind(*sky, body, place, horizon, from, to))
      one.push_back({behind_words(b, place.zone), s_of(b.at), b.where.altitude_deg, b.where.azimuth_deg});
    const Panorama view = panorama_for(move, optics, 900, dice.whole(200, 500), 30);
    const Direction there = view.direction_at(300, 80);
    one.push_back({view.middle_deg, view.low_deg, view.per_degree, view.x_of(half.bearing_deg), view.y_of(10),
                   there.altitude_deg, there.azimuth_deg});
    turn(move, dice.chance(0.5), dice.between(-30, 30), dice.between(-30, 30), dice.between(-20, 20));
    one.push_back({move.from.bearing_deg, move.from.tilt_deg, move.from.roll_deg, move.to.bearing_deg,
                   move.to.tilt_deg});
    kept.push_back(one);
  }
  test::hold(kept, "core/sky_frames");
}

TEST(KeptSky, WeatherIsJudged) {
  Json kept = Json::array();
  for (unsigned seed = 301; seed <= 360; ++seed) {
    Dice dice(seed);
    Weather weather;
    if (dice.chance(0.7)) weather.humidity = dice.between(0.3, 1);
    if (dice.chance(0.3)) weather.dew_point_c = dice.between(-10, 18);
    weather.cooling_c_per_hour = dice.between(0, 3);
    weather.wind_m_s = dice.chance(0.5) ? dice.between(0, 20) : 0;
    weather.tall_tripod = dice.chance(0.3);
    weather.heater = dice.chance(0.3);
    const double t = dice.between(-20, 25), field_s = dice.between(600, 40000), focal = dice.between(14, 300);
    const auto dew = dew_after_s(weather, t, field_s);
    kept.push_back({dew.value_or(-1), to_json(judge(weather, t, focal, field_s, "18:40")),
                    weather.humidity ? dew_point_c(t, *weather.humidity) : 0});
  }
  test::hold(kept, "core/weather");
}

}  // namespace
}  // namespace askcount::sky
