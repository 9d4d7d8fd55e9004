// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/light_advice.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "advice/in_the_film.h"
#include "advice/wake.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "forecast/night.h"
#include "forecast/place_picture.h"
#include "plan/flash.h"
#include "sky/ambient.h"

namespace askcount::advice {

using take::Take;
namespace {

/// The clock at a frame, with its day where the take has several.
std::string clock_of(const Take& take, const plan::Schedule& schedule, long long frame) {
  const Instant at = schedule.at(frame);
  const std::string clock = format_clock(at, take.place.zone);
  const Day day = day_of(at, take.place.zone);
  return day == day_of(schedule.at(0), take.place.zone) ? clock : day_words(day) + ", " + clock;
}

/// When what is to stay in the frame goes behind the person's skyline.
Findings behind_words(const Take& take) {
  Findings list;
  for (const sky::Behind& b : forecast::behind_of(take, {forecast::body_to_keep(take)})) {
    if (!b.goes) continue;
    std::string words = sky::behind_words(b, take.place.zone);
    words.pop_back();  // a title has no full stop
    const double into_s = seconds_between(take.start, b.at);
    list.push_back({"behind_skyline", Severity::Ok, words,
                    into_s < 0
                        ? say("{} before the first shot.", format_length(std::round(-into_s / 60) * 60))
                        : say("{} after the first shot.", format_length(std::round(into_s / 60) * 60))});
    break;
  }
  return list;
}

/// What a flash leaves to be said: its strength, its shutter, and the day beside it.
Findings flash_words(const Take& take, const ramp::Ramp& ramp) {
  const plan::Lamp* flash = forecast::flash_of(take);
  if (!flash) return {};
  Findings list;
  const forecast::Standing standing = forecast::standing_of(take, ramp.ev);
  if (flash->guide_m <= 0)
    list.push_back({"flash_unknown", Severity::Warning, say("How strong is the flash?"),
                    say("Say its guide number in the kit, and the subject's distance on Ask: aperture and "
                        "ISO follow.")});
  if (standing.match.missing_stops < 0)
    list.push_back({"flash_too_weak", Severity::Stop, say("The flash does not reach that far"),
                    say("At {} m it is {} stops too weak, wide open at the highest ISO. Bring it nearer.",
                        format_number(take.focus_m(), take.focus_m() < 1 ? 2 : 1),
                        format_number(-standing.match.missing_stops, 1))});
  if (standing.exposure.shutter_s < plan::kShortestWithFlash_s * 0.95)
    list.push_back(
        {"flash_shutter", Severity::Stop, say("Too short a shutter for a flash"),
         say("At {} the whole frame is never open at once: part of it stays dark. Use 1/200 s or longer.",
             ramp::dial_words(ramp::Dial::Shutter, standing.exposure))});
  if (ramp.ev.empty() || flash->guide_m <= 0) return list;
  // The day beside it: at the subject's own exposure.
  const auto [low, high] = std::minmax_element(ramp.ev.begin(), ramp.ev.end());
  const auto beside = [&](double ev) {
    return ramp::meter_stops(ramp::light_stops_of_ev(ev), standing.exposure);
  };
  const double most = beside(*high), least = beside(*low);
  constexpr double kSeen_stops = -3;  // further under the flash the day no longer counts
  const auto words = [](double stops) {
    return format_number(std::abs(stops), 1) + (stops >= 0 ? say(" stops over") : say(" stops under"));
  };
  if (most < kSeen_stops)
    list.push_back({"flash_alone", Severity::Ok, say("Only the flash counts"),
                    say("The light around is at least {} stops under it.", format_number(-most, 1))});
  else
    list.push_back(
        {"flash_and_day", Severity::Warning, say("The light around changes beside the flash"),
         say("It goes from {} the flash to {} it. A shorter shutter takes it away without touching the "
             "flash: at 1/200 s it would be {} at most.",
             words(most), words(least),
             words(most -
                   std::max(0.0, std::log2(standing.exposure.shutter_s / plan::kShortestWithFlash_s))))});
  return list;
}

/// Which way the galaxy's band leans and sweeps, for takes of stars.
Findings band_words(const Take& take, const plan::Sums& sums) {
  if (forecast::body_to_keep(take) != sky::Body::Core) return {};
  const Instant end = later(take.start, sums.field_s);
  const auto ephemeris = sky::ephemeris_for(take.start, end);
  const auto at = [&](Instant t) {
    const auto band = ephemeris->band(t, take.place);
    const sky::Direction &core = band.front(), &next = band[6];  // 30° along it
    const double across = std::remainder(next.azimuth_deg - core.azimuth_deg, 360.0) *
                          std::cos(core.altitude_deg * 3.14159265358979 / 180),
                 up = next.altitude_deg - core.altitude_deg;
    const double slope = std::atan2(std::abs(up), std::abs(across)) * 180 / 3.14159265358979;
    const bool right = (across > 0) == (up > 0);
    return say("at {}° to the horizon{}, its core {}° high in bearing {}°", format_number(slope, 0),
               slope > 80 ? ""
               : right    ? say(", leaning right")
                          : say(", leaning left"),
               format_number(core.altitude_deg, 0), format_number(core.azimuth_deg, 0));
  };
  return {{"band", Severity::Ok, say("How the galaxy's band stands"),
           say("At the first shot {}; at the last {}.", at(take.start), at(end))}};
}

/// What the land gets by night beside the sky: from the moon, or from the stars alone.
Findings land_words(const Take& take) {
  const Instant end = later(take.start, std::min(forecast::run_s(take), 2 * 86400.0));
  const auto ephemeris = sky::ephemeris_for(take.start, end);
  // In the dark hours: where the moon is highest.
  std::optional<Instant> when;
  double highest = -91;
  for (int i = 0; i <= 24; ++i) {
    const Instant t = take.start + (end - take.start) * i / 24;
    if (ephemeris->at(sky::Body::Sun, t, take.place).altitude_deg > -15) continue;
    if (const double moon = ephemeris->at(sky::Body::Moon, t, take.place).altitude_deg; moon > highest)
      highest = moon, when = t;
  }
  if (!when) return {};
  const sky::LandAndSky l =
      sky::land_and_sky(*ephemeris, *when, take.place, take.light.source.cover,
                        {take.light.source.sky_mag,
                         {std::max(10.0, take.light.move.from.tilt_deg), take.light.move.from.bearing_deg}});
  const double apart = l.sky_ev - l.land_ev;
  const std::string by = highest > 0 ? say("With the moon {}° up, {} % lit, at {}", format_number(highest, 0),
                                           format_number(100 * ephemeris->moon(*when).lit, 0),
                                           format_clock(*when, take.place.zone))
                                     : say("Without a moon");
  return {{"land_at_night", Severity::Ok, say("The land by night"),
           say("{} the land gets EV {}, the sky there has EV {}: {}.", by, format_number(l.land_ev, 1),
               format_number(l.sky_ev, 1),
               apart > 1.5
                   ? format_number(apart, 1) +
                         say(" stops darker than the sky, a silhouette unless it is exposed for by itself")
               : apart < -1.5 ? format_number(-apart, 1) + say(" stops brighter than the sky, as by day")
                              : std::string(say("one exposure does for both")))}};
}

}  // namespace

Findings cautions(const Take& take) {
  Findings list;
  if (take.temperature_c < 5 && !(take.light.weather.humidity || take.light.weather.dew_point_c))
    list.push_back(
        {"cold_hands", Severity::Caution, say("Cold"),
         say("Dress for hours of standing, keep spare batteries warm, and stop when fingers go numb.")});
  if (!take.knows_sky()) return list;
  const bool counted = take.solution().complete();
  const Instant end = later(take.start, counted ? std::min(forecast::run_s(take), 86400.0) : 3600);
  const auto ephemeris = sky::ephemeris_for(take.start, end);
  const sky::Ephemeris& sky = *ephemeris;
  const sky::Move& move = take.light.move;
  const auto sun =
      !take.light.knows_aim()
          ? std::vector<sky::Passage>{}
          : sky::passages_of(sky, sky::Body::Sun, take.place,
                             {move, forecast::optics_of(take), take.light.horizon}, {take.start, end});
  if (!sun.empty())
    list.push_back(
        {"sun_in_frame", Severity::Caution, say("Never look at the sun through an optical finder"),
         say("It is in the frame {} {}. Frame with the screen, cap the lens while you wait; a long "
             "lens on the sun can burn shutter and sensor.",
             sun.front().at_end ? say("from") : say("until"),
             format_clock(sun.front().at_end ? sun.front().from : sun.front().to, take.place.zone))});
  double darkest = 90;
  for (int i = 0; i <= 8; ++i)
    darkest = std::min(
        darkest, sky.at(sky::Body::Sun, take.start + (end - take.start) * i / 8, take.place).altitude_deg);
  if (darkest < -4)
    list.push_back(
        {"dark_edges", Severity::Caution,
         sky.at(sky::Body::Sun, end, take.place).altitude_deg > -4 ? say("You set up in the dark")
                                                                   : say("It gets dark while you are there"),
         say("Walk the place in daylight: know where edges, steps and the tide are, tell somebody where you "
             "are "
             "and when you come back. Keep to what is allowed there. Stay with the gear, and off the "
             "edge.")});
  return list;
}

Findings weather_words(const Take& take) {
  const plan::Schedule schedule = forecast::schedule_of(take);
  const Seconds run = forecast::run_s(take);
  const auto dew = sky::dew_after_s(take.light.weather, take.temperature_c, run);
  Findings list = sky::judge(take.light.weather, take.temperature_c, take.lens().focal_mm, run,
                             dew ? format_clock(later(schedule.at(0), *dew), take.place.zone) : "");
  if (!dew || *dew <= 0 || schedule.pauses()) return list;
  const long long clear = std::clamp(schedule.press_at(*dew) + 1, 0LL, schedule.shots());
  for (Finding& f : list)
    if (f.code == "dew")
      f.text += say(
          " Without it {} of the film is clear, to frame {}.",
          format_number(100 * static_cast<double>(clear) / static_cast<double>(schedule.shots()), 0) + " %",
          format_count(clear));
  return list;
}

Findings light_advice(const Take& take, const ramp::Ramp& ramp) {
  const plan::Sums sums = take.sums();
  Findings list = cautions(take);
  const auto add = [&list](const Findings& more) { list.insert(list.end(), more.begin(), more.end()); };
  if (!forecast::knows_light(take)) {
    list.push_back(
        {"sky_unknown", Severity::Warning, say("Place and time are not set"),
         say("Sun, moon, darkness, dew and the ramp follow from place, date and time: set them.")});
    return list;
  }
  if (!forecast::has_metered(take))
    list.push_back(
        {"light_not_metered", Severity::Warning, say("Not metered yet"),
         say("The estimated light may be off by two stops, mostly too dark where the camera faces the bright "
             "sky. "
             "Meter at the place before the first shot, and say it: here, on Ask, or beside the tripod "
             "(M).")});
  add(in_the_film(take, ramp));
  add(behind_words(take));
  add(flash_words(take, ramp));
  if (!forecast::follows(take, ramp.ev) && take.light.method != ramp::Method::Fixed) {
    list.push_back(
        {"light_steady", Severity::Ok, say("The light hardly changes"),
         forecast::flash_of(take) ? say("Your flash lights it: one exposure does for all of it.")
         : take.lamp
             ? say("Your lamp lights it: one exposure does for all of it.")
             : say("Less than a stop from the first shot to the last: one exposure does for all of it.")});
  } else if (take.light.method == ramp::Method::Hand) {
    constexpr Seconds kAwake_s = 24 * 3600;
    if (sums.field_s > kAwake_s)
      list.push_back({"hand_too_long", Severity::Warning, say("Too long to turn dials by hand"),
                      say("{} by hand. Let the camera do it by aperture priority, or keep one exposure.",
                          format_length(sums.field_s)),
                      fix::LetCameraExpose{}});
    const plan::Schedule schedule = forecast::schedule_of(take);
    add(ramp::judge(
        ramp, {forecast::rule_of(take), schedule.interval_s(), forecast::room_of(take), take.light.turning_s,
               !take.light.clicks.empty(), [&](long long n) { return clock_of(take, schedule, n); }}));
  } else {
    for (const ramp::MethodOutcome& o : forecast::methods_of(take))
      if (o.method == take.light.method)
        list.push_back({o.works ? "method_works" : "method_fails", o.works ? Severity::Ok : Severity::Warning,
                        o.title, o.text});
  }
  if (take.knows_sky() && sums.field_s < 366 * 86400.0) {
    add(band_words(take, sums));
    add(land_words(take));
    if (forecast::is_night(take) && !take.light.weather.humidity && !take.light.weather.dew_point_c &&
        !take.light.weather.heater)
      list.push_back(
          {"dew_unknown", Severity::Warning, say("Will there be dew?"),
           say("Glass cools below the air on clear nights, and dew creeps in unseen. Say how humid it "
               "is, on Light "
               "and weather, or bring a lens heater anyway.")});
  }
  add(judge_wakes(take, ramp));
  add(weather_words(take));
  sort_by_severity(list);
  return list;
}

}  // namespace askcount::advice
