// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/events.h"

#include <nlohmann/json.hpp>

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>

#include "base/language.h"

namespace askcount::sky {
namespace {

using std::chrono::minutes;
using Height = std::function<double(Instant)>;  // above the wanted altitude, in degrees

constexpr auto kStride = minutes(10);
constexpr auto kPrecision = std::chrono::milliseconds(200);
constexpr double kGolden = 0.6180339887;

Instant bisected(const Height& height, Instant a, Instant b) {
  const bool below = height(a) < 0;
  while (b - a > kPrecision) {
    const Instant middle = a + (b - a) / 2;
    ((height(middle) < 0) == below ? a : b) = middle;
  }
  return b;
}

/// The highest (sign 1) or lowest (−1) point between two moments around it.
Instant extreme(const Height& height, Instant a, Instant b, double sign) {
  while (b - a > std::chrono::seconds(2)) {
    const auto part = std::chrono::milliseconds(
        static_cast<long long>(static_cast<double>((b - a).count()) * (1 - kGolden)));
    if (sign * height(a + part) > sign * height(b - part))
      b = b - part;
    else
      a = a + part;
  }
  return a + (b - a) / 2;
}

std::vector<Crossing> passages(const Height& height, Instant from, Instant to) {
  std::vector<Crossing> list;
  std::vector<Instant> at;
  for (Instant t = from; t < to; t += kStride) at.push_back(t);
  at.push_back(to);
  std::vector<double> h;
  h.reserve(at.size());
  for (const Instant t : at) h.push_back(height(t));
  for (size_t i = 1; i < at.size(); ++i) {
    if ((h[i - 1] < 0) != (h[i] < 0)) {
      list.push_back({bisected(height, at[i - 1], at[i]), h[i] >= 0});
      continue;
    }
    // A grazing passage shows as a turn close to the altitude with the same side on both ends.
    if (i + 1 >= at.size() || std::abs(h[i]) > 1.5) continue;
    const double sign = h[i] < 0 ? 1 : -1;
    if (sign * h[i] < sign * h[i - 1] || sign * h[i] < sign * h[i + 1] || (h[i + 1] < 0) != (h[i] < 0))
      continue;
    const Instant turn = extreme(height, at[i - 1], at[i + 1], sign);
    if ((height(turn) < 0) == (h[i] < 0)) continue;
    list.push_back({bisected(height, at[i - 1], turn), h[i] < 0});
    list.push_back({bisected(height, turn, at[i + 1]), h[i] >= 0});
  }
  std::sort(list.begin(), list.end(), [](const Crossing& a, const Crossing& b) { return a.at < b.at; });
  return list;
}

struct Wanted {
  const char* key;
  double altitude_deg;
  bool rising;
  const char* what;
};
constexpr Wanted kSunEvents[] = {
    {"astronomical_dawn", kAstronomical_deg, true, to_say("18° below the horizon")},
    {"nautical_dawn", kNautical_deg, true, to_say("12° below the horizon")},
    {"civil_dawn", kCivil_deg, true, to_say("6° below the horizon")},
    {"morning_blue_from", kBlueLow_deg, true, to_say("6° below the horizon")},
    {"morning_golden_from", kGoldenLow_deg, true, to_say("4° below the horizon")},
    {"sunrise", -0.833, true, to_say("the horizon")},
    {"morning_golden_to", kGoldenHigh_deg, true, to_say("6° above the horizon")},
    {"golden_from", kGoldenHigh_deg, false, to_say("6° above the horizon")},
    {"sunset", -0.833, false, to_say("the horizon")},
    {"golden_to", kGoldenLow_deg, false, to_say("4° below the horizon")},
    {"blue_to", kBlueLow_deg, false, to_say("6° below the horizon")},
    {"civil_dusk", kCivil_deg, false, to_say("6° below the horizon")},
    {"nautical_dusk", kNautical_deg, false, to_say("12° below the horizon")},
    {"astronomical_dusk", kAstronomical_deg, false, to_say("18° below the horizon")}};

}  // namespace

std::vector<Crossing> crossings_of(const Ephemeris& sky, Body body, double altitude_deg, const Place& place,
                                   Instant from, Instant to) {
  return passages([&](Instant t) { return sky.at(body, t, place).altitude_deg - altitude_deg; }, from, to);
}

std::vector<Crossing> moon_crossings(const Ephemeris& sky, const Place& place, Instant from, Instant to) {
  return passages(
      [&](Instant t) {
        return sky.at(Body::Moon, t, place).altitude_deg + 34.0 / 60 + sky.moon(t).width_deg / 2;
      },
      from, to);
}

std::optional<Instant> transit_of(const Ephemeris& sky, Body body, const Place& place, Instant from,
                                  Instant to) {
  // The hour angle passes zero where the azimuth changes from east of the meridian to west of it on the
  // equator's side.
  const auto east = [&](Instant t) {
    const Direction d = sky.at(body, t, place);
    return std::sin(d.azimuth_deg * 3.14159265358979 / 180);  // above zero in the east
  };
  const auto upper = [&](Instant t) {  // the higher of the two passages of the meridian
    return sky.at(body, t, place).altitude_deg > sky.at(body, t + std::chrono::hours(12), place).altitude_deg;
  };
  const Height height = [&](Instant t) { return east(t); };
  for (Instant a = from; a < to; a += minutes(15)) {
    const Instant b = std::min<Instant>(a + minutes(15), to);
    if ((east(a) < 0) == (east(b) < 0)) continue;
    const Instant at = bisected(height, a, b);
    if (upper(at)) return at;
  }
  return {};
}

const std::vector<std::string>& event_keys() {
  static const std::vector<std::string> keys = {
      "astronomical_dawn", "nautical_dawn",     "civil_dawn", "morning_blue_from", "morning_golden_from",
      "sunrise",           "morning_golden_to", "solar_noon", "golden_from",       "sunset",
      "golden_to",         "blue_to",           "civil_dusk", "nautical_dusk",     "astronomical_dusk",
      "moonrise",          "moon_transit",      "moonset",    "core_rise",         "core_transit",
      "core_set"};
  return keys;
}

DayEvents events_of(const Day& day, const Place& place) {
  DayEvents e;
  e.day = day;
  const Instant from = day_start(day, place.zone), to = day_start(day_after(day, 1), place.zone);
  const auto ephemeris = ephemeris_for(from, to);
  const Ephemeris& sky = *ephemeris;
  const Instant end = to - std::chrono::milliseconds(1);
  const auto sun = [&](Instant t) { return sky.at(Body::Sun, t, place).altitude_deg; };
  double high = -90, low = 90;
  for (Instant t = from; t <= to; t += minutes(20))
    high = std::max(high, sun(t)), low = std::min(low, sun(t));
  for (const Wanted& w : kSunEvents) {
    bool found = false;
    for (const Crossing& c : crossings_of(sky, Body::Sun, w.altitude_deg, place, from, end))
      if (c.rising == w.rising && !found) e.at[w.key] = c.at, found = true;
    if (found) continue;
    const std::string name = day_words(day);
    if (low > w.altitude_deg)
      e.reasons[w.key] = say("The sun stays above {} all of {}.", say(w.what), name);
    else if (high < w.altitude_deg)
      e.reasons[w.key] = say("The sun stays below {} all of {}.", say(w.what), name);
    else
      e.reasons[w.key] = say("The sun does not {} past {} within {} by the local clock.",
                             w.rising ? say("rise") : say("sink"), say(w.what), name);
  }
  const auto put = [&](const char* key, std::optional<Instant> at, const std::string& reason) {
    if (at)
      e.at[key] = *at;
    else
      e.reasons[key] = reason;
  };
  put("solar_noon", transit_of(sky, Body::Sun, place, from, end),
      say("The sun does not pass the meridian within the day by the local clock."));
  const auto first = [](const std::vector<Crossing>& list, bool rising) -> std::optional<Instant> {
    for (const Crossing& c : list)
      if (c.rising == rising) return c.at;
    return {};
  };
  const std::vector<Crossing> moon = moon_crossings(sky, place, from, end);
  const auto why_moon = [&](bool rising) {
    if (!moon.empty())
      return std::string(
          rising ? say("The moon does not rise on this day: it rises about 50 minutes later every "
                       "day and skips one now and then.")
                 : say("The moon does not set on this day: it sets about 50 minutes later every "
                       "day and skips one now and then."));
    return std::string(sky.at(Body::Moon, from, place).altitude_deg > 0
                           ? say("The moon stays up all day.")
                           : say("The moon stays down all day."));
  };
  put("moonrise", first(moon, true), why_moon(true));
  put("moonset", first(moon, false), why_moon(false));
  put("moon_transit", transit_of(sky, Body::Moon, place, from, end),
      say("The moon does not pass the meridian on this day."));
  const std::vector<Crossing> core = crossings_of(sky, Body::Core, kPointDown_deg, place, from, end);
  const std::string why_core = sky.at(Body::Core, from, place).altitude_deg > 0
                                   ? say("The galaxy's core never sets this far south.")
                                   : say("The galaxy's core never rises this far north.");
  put("core_rise", first(core, true), why_core);
  put("core_set", first(core, false), why_core);
  put("core_transit", transit_of(sky, Body::Core, place, from, end),
      say("The galaxy's core passes the meridian just outside this day."));
  const MoonFace face = sky.moon(from + (to - from) / 2);
  e.moon_lit = face.lit;
  e.moon_waxing = face.waxing;
  return e;
}

Json to_json(const DayEvents& e, const Place& place) {
  Json json;
  for (const std::string& key : event_keys()) {
    const auto at = e[key];
    json[key] = at ? Json(format_iso(*at, place.zone)) : Json(nullptr);
  }
  json["moon_lit"] = rounded(e.moon_lit, 4);
  json["moon_waxing"] = e.moon_waxing;
  json["reasons"] = Json::object();
  for (const auto& [key, why] : e.reasons) json["reasons"][key] = why;
  return json;
}

std::vector<Darkness> darkness(const Ephemeris& sky, const Place& place, Instant from, Instant to,
                               double core_deg) {
  const auto dark = [&](Instant t) {
    return sky.at(Body::Sun, t, place).altitude_deg < kAstronomical_deg &&
           sky.at(Body::Moon, t, place).altitude_deg < -0.8 &&
           (core_deg <= -90 || sky.at(Body::Core, t, place).altitude_deg >= core_deg);
  };
  const Height height = [&](Instant t) { return dark(t) ? 1.0 : -1.0; };
  std::vector<Darkness> list;
  std::optional<Instant> began;
  bool before = dark(from);
  if (before) began = from;
  for (Instant a = from; a < to; a += kStride) {
    const Instant b = std::min<Instant>(a + kStride, to);
    const bool now = dark(b);
    if (now && !before) began = bisected(height, a, b);
    if (!now && before) list.push_back({*began, bisected(height, a, b), 0});
    before = now;
  }
  if (before) list.push_back({*began, to, 0});
  for (Darkness& d : list)
    for (Instant t = d.from; t <= d.to; t += kStride)
      d.core_highest_deg = std::max(d.core_highest_deg, sky.at(Body::Core, t, place).altitude_deg);
  return list;
}

}  // namespace askcount::sky
