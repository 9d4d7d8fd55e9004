// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>

#include <memory>

#include "base/error.h"
#include "base/units.h"
#include "over.h"
#include "sky/night_sky.h"
#include "sky/windows.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

using sky::Body;

struct SkyOptions {
  PlaceAsked place;
  std::string date, at, field = "1h", darkness;
  OverAsked over;
  std::optional<sky::Cover> cover;
  double town_lux = 0;
  int nights = 0;
};

Json direction(const sky::Direction& d) {
  return {{"altitude_deg", rounded(d.altitude_deg, 3)}, {"azimuth_deg", rounded(d.azimuth_deg, 3)}};
}

/// What one day's light and a run of nights have.
struct DaySky {
  sky::DayEvents events;
  std::vector<sky::Window> windows;
  std::vector<std::string> missing;  ///< why there are no others
  std::vector<sky::Night> nights;
};

Json windows_json(const std::vector<sky::Window>& windows, const std::string& zone) {
  Json list = Json::array();
  for (const sky::Window& w : windows)
    list.push_back({{"kind", w.kind},
                    {"from", format_iso(w.from, zone)},
                    {"to", format_iso(w.to, zone)},
                    {"start", format_iso(w.start, zone)},
                    {"to_by_sunrise", w.other_to ? Json(format_iso(*w.other_to, zone)) : Json(nullptr)},
                    {"fits", w.fits},
                    {"reason", w.reason}});
  return list;
}

Json nights_json(const std::vector<sky::Night>& nights, const std::string& zone) {
  Json list = Json::array();
  for (const sky::Night& n : nights)
    list.push_back({{"date", format_day(n.day)},
                    {"dark_s", rounded(n.dark_s, 0)},
                    {"from", format_iso(n.from, zone)},
                    {"moon_lit", rounded(n.moon_lit, 3)}});
  return list;
}

std::string day_told(const DaySky& found, const sky::Place& place) {
  const sky::DayEvents& events = found.events;
  std::string told = day_words(events.day) + "\n";
  for (const std::string& key : sky::event_keys()) {
    const auto moment = events[key];
    std::string name = key;
    std::replace(name.begin(), name.end(), '_', ' ');
    told +=
        fmt::format("{:20} {}\n", name,
                    moment ? format_clock(*moment, place.zone, true) : "-       " + events.reasons.at(key));
  }
  for (const sky::Window& w : found.windows)
    told += fmt::format("window               {}, {}, start {}: {}\n", w.kind,
                        day_words(day_of(w.start, place.zone)), format_clock(w.start, place.zone), w.reason);
  for (const std::string& why : found.missing) told += fmt::format("no window            {}\n", why);
  for (const sky::Night& n : found.nights)
    told += fmt::format("night                {}: {} dark with the core up, from {}, moon {} % lit\n",
                        day_words(n.day), format_length(std::round(n.dark_s / 60) * 60),
                        format_clock(n.from, place.zone), format_number(n.moon_lit * 100, 0));
  told += fmt::format("{:20} {} %, {}\n", "moon lit", format_number(events.moon_lit * 100, 0),
                      events.moon_waxing ? "waxing" : "waning");
  return told;
}

/// The light of one moment.
void add_moment(Answer& answer, Instant at, const sky::Place& place, const SkyOptions& asked) {
  const sky::Cover cover = asked.cover.value_or(sky::Cover::Clear);
  const sky::Ephemeris sky(at, at);
  for (const Body body : {Body::Sun, Body::Moon, Body::Core})
    answer.json[sky::body_word(body)] = direction(sky.at(body, at, place));
  const sky::MoonFace face = sky.moon(at);
  answer.json["moon"]["lit"] = rounded(face.lit, 4);
  answer.json["moon"]["width_deg"] = rounded(face.width_deg, 4);
  answer.json["moon"]["phase_angle_deg"] = rounded(face.phase_angle_deg, 2);
  const double lux = sky::ambient_lux(sky, at, place, cover, asked.town_lux);
  answer.json["at"] = format_iso(at, place.zone);
  answer.json["lux"] = lux < 1 ? rounded(lux, 6) : rounded(lux, 1);
  const sky::NightView night{
      asked.darkness.empty() ? sky::kNaturalGlow_mag : sky::parse_darkness(asked.darkness), {45, 180}};
  const double luminance = sky::scene_luminance(sky, at, place, cover, asked.town_lux, night);
  answer.json["luminance_cd_m2"] = Json::parse(fmt::format("{:.4g}", luminance));
  answer.json["sky_mag"] = rounded(night.zenith_mag, 2);
  answer.json["ev100"] = rounded(sky::ev100_of_luminance(luminance), 2);
  answer.json["stops_per_minute"] =
      rounded(sky::stops_per_minute(sky, at, place, cover, asked.town_lux, night), 4);
  answer.json["look"] = sky::look_words(sky, at, place);
  answer.words += fmt::format("At {}: {}; {} lux, EV {}.\n", format_clock(at, place.zone, true),
                              sky::look_words(sky, at, place), format_number(lux, lux < 1 ? 4 : 0),
                              format_number(sky::ev100_of_luminance(luminance), 1));
}

Answer sky_verb(const SkyOptions& asked) {
  if (!asked.over.picture.empty()) return over_answer(asked.over, asked.place);
  const sky::Place place = place_of(asked.place);
  if (asked.date.empty() && asked.at.empty())
    throw bad_input("Neither --date nor --at was given.", "Write --date 2026-10-09.");
  const std::optional<Instant> at =
      asked.at.empty() ? std::nullopt : std::optional(parse_instant(asked.at, place.zone));
  const Day day = asked.date.empty() ? day_of(*at, place.zone) : parse_day(asked.date);
  DaySky found{sky::events_of(day, place), {}, {}, {}};
  found.windows = sky::windows_of(day, place, parse_length(asked.field, "--field"), &found.missing);
  Answer answer;
  answer.json = sky::to_json(found.events, place);
  if (place.height_m > 0)
    answer.json["sea_horizon_dip_deg"] = rounded(sky::sea_horizon_dip_deg(place.height_m), 3);
  answer.json["windows"] = windows_json(found.windows, place.zone);
  answer.json["no_window"] = found.missing;
  if (asked.nights > 0) {
    found.nights = sky::best_nights(day, asked.nights, place);
    answer.json["nights"] = nights_json(found.nights, place.zone);
  }
  answer.words = day_told(found, place);
  if (at) add_moment(answer, *at, place, asked);
  return answer;
}

}  // namespace

void add_place(const Verb& verb, PlaceAsked& place) {
  verb.add_option("--lat", place.latitude, "Latitude in degrees, north positive");
  verb.add_option("--lon", place.longitude, "Longitude in degrees, east positive");
  verb.add_option("--place", place.coordinates, "Both in one: 56°06'00\"N 5°30'00\"W");
  verb.add_option("--zone", place.zone, "Time zone by name, such as Europe/London");
  verb.add_option("--height", place.height_m, "Above the sea, in metres");
}

sky::Place place_of(const PlaceAsked& asked) {
  sky::Place place;
  if (!asked.coordinates.empty())
    std::tie(place.latitude_deg, place.longitude_deg) = sky::parse_coordinates(asked.coordinates);
  else if (asked.latitude.empty() || asked.longitude.empty())
    throw bad_input("Where? --lat and --lon were not given.", "Write --lat 56.1 --lon -5.5, or --place.");
  else
    std::tie(place.latitude_deg, place.longitude_deg) =
        sky::parse_coordinates(asked.latitude + ", " + asked.longitude);
  place.name =
      asked.name.empty() ? sky::format_coordinates(place.latitude_deg, place.longitude_deg) : asked.name;
  place.zone = asked.zone.empty() ? "UTC" : asked.zone;
  place.height_m = asked.height_m;
  sky::check_place(place);
  return place;
}

void add_sky(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "sky", "Sun, moon and galaxy over a day at a place");
  const auto asked = std::make_shared<SkyOptions>();
  add_place(verb, asked->place);
  verb.add_option("--date", asked->date, "The local date");
  verb.add_option("--at", asked->at, "Positions and light at this moment (local time, or with an offset)");
  verb.add_option("--field", asked->field, "Field time that windows are suggested for (1 h)");
  add_cover(verb, asked->cover);
  verb.add_option("--town", asked->town_lux, "Light of a town, in lux").between(0.0, 1e5);
  verb.add_option("--darkness", asked->darkness,
                  "Darkness of the night sky: remote, country, village, suburb, town, city, or magnitudes");
  verb.add_option("--nights", asked->nights, "The best nights within this many days of the date")
      .between(0, 366);
  add_over(verb, asked->over);
  verb.callback([&chosen, asked] { chosen.run = [asked] { return sky_verb(*asked); }; });
}

}  // namespace askcount::cli
