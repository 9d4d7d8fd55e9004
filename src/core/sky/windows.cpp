// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/windows.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"

namespace askcount::sky {
namespace {

using std::chrono::hours;
using std::chrono::minutes;
constexpr double kCoreUp_deg = 10;

std::chrono::milliseconds ms_of(Seconds s) {
  return std::chrono::milliseconds(std::llround(std::min(s, 1e9) * 1000));
}

std::optional<Instant> first(const std::vector<Crossing>& list, bool rising) {
  for (const Crossing& c : list)
    if (c.rising == rising) return c.at;
  return {};
}

/// Noon of a day to noon of the next.
std::pair<Instant, Instant> night_of(const Day& day, const Place& place) {
  const Instant a = day_start(day, place.zone), b = day_start(day_after(day, 1), place.zone),
                c = day_start(day_after(day, 2), place.zone);
  return {a + (b - a) / 2, b + (c - b) / 2};
}

}  // namespace

std::vector<Window> windows_of(const Day& day, const Place& place, Seconds field_s,
                               std::vector<std::string>* missing) {
  const auto [this_noon, that_noon] = night_of(day, place);
  const Instant noon = this_noon, next_noon = that_noon;  // clang captures no bindings
  const auto ephemeris = ephemeris_for(noon, next_noon);
  const Ephemeris& sky = *ephemeris;
  const auto sun = [&](double altitude, bool rising) {
    return first(crossings_of(sky, Body::Sun, altitude, place, noon, next_noon), rising);
  };
  const auto clock = [&](Instant t) { return format_clock(t, place.zone); };
  const auto miss = [&](const std::string& why) {
    if (missing) missing->push_back(why);
  };
  const std::chrono::milliseconds field = ms_of(field_s);
  std::vector<Window> list;
  const auto sunset = sun(-0.833, false), sunrise = sun(-0.833, true);
  const auto add = [&](const char* kind, Instant from, Instant to, Instant start, const std::string& reason) {
    list.push_back({kind, from, to, start, reason, start + field <= to + minutes(1), {}});
  };
  if (sunset) {
    const auto blue_end = sun(kBlueLow_deg, false);
    const Instant end = blue_end ? *blue_end : *sunset + minutes(60);
    const Instant start = std::clamp<Instant>(end - field, *sunset - minutes(90), *sunset - minutes(60));
    add("day into night", *sunset - minutes(90), end, start,
        say("Sun down {}; {}. Start 60 to 90 minutes before, so that there is day to leave.", clock(*sunset),
            blue_end ? say("blue light gone {}", clock(*blue_end)) : say("it does not get fully dark")));
  } else {
    miss(say("The sun does not set: there is no day into night."));
  }
  if (sunset && sunrise) {
    const auto dark = sun(kAstronomical_deg, false), light = sun(kAstronomical_deg, true);
    if (dark && light) {
      const Instant from = std::max<Instant>(*sunset + hours(2), *dark), to = *light - hours(1);
      std::optional<Window> best;
      for (const Darkness& d :
           to > from ? darkness(sky, place, from, to, kCoreUp_deg) : std::vector<Darkness>{})
        if (!best || d.to - d.from > best->to - best->from)
          best = Window{say("milky way"),
                        d.from,
                        d.to,
                        d.from,
                        say("Dark, moon down, core up to {}° high; two hours after sunset. Some stop an hour "
                            "before first light, {}, others an hour before sunrise, {}.",
                            format_number(d.core_highest_deg, 0), clock(to), clock(*sunrise - hours(1))),
                        d.from + field <= d.to + minutes(1),
                        *sunrise - hours(1)};
      if (best)
        list.push_back(*best);
      else
        miss(say("No hour of this night is dark with the moon down and the galaxy's core 10° up."));
    } else {
      miss(say("It does not get astronomically dark: no milky way."));
    }
  }
  if (sunrise) {
    const auto blue = sun(kBlueLow_deg, true);
    const Instant from = blue ? *blue : *sunrise - minutes(60);
    add("sunrise", from, *sunrise + minutes(90), from,
        say("Sun up {}. Start as the blue light comes, go on 60 to 90 minutes.", clock(*sunrise)));
  } else {
    miss(say("The sun does not rise."));
  }
  for (const Crossing& c : moon_crossings(sky, place, noon, next_noon))
    if (c.rising) {
      const double sun_alt = sky.at(Body::Sun, c.at, place).altitude_deg;
      const MoonFace face = sky.moon(c.at);
      if (sun_alt > 0)
        miss(say("The moon rises at {} in daylight.", clock(c.at)));
      else
        add("moonrise", c.at - minutes(10), c.at + std::max<std::chrono::milliseconds>(field, minutes(60)),
            c.at - minutes(10),
            say("Moon up {}, {} lit, at {}°. Start ten minutes before.", clock(c.at),
                format_number(face.lit * 100, 0) + " %",
                format_number(sky.at(Body::Moon, c.at, place).azimuth_deg, 0)));
    }
  std::sort(list.begin(), list.end(), [](const Window& a, const Window& b) { return a.start < b.start; });
  return list;
}

std::vector<Night> best_nights(const Day& begin, int days, const Place& place) {
  const Instant from = night_of(begin, place).first;
  const Ephemeris sky(from, from + hours(24 * (days + 1)));
  std::vector<Night> list;
  for (int i = 0; i < days; ++i) {
    Night n;
    n.day = day_after(begin, i);
    const auto [noon, next] = night_of(n.day, place);
    Seconds longest = 0;
    for (const Darkness& d : darkness(sky, place, noon, next, kCoreUp_deg)) {
      const Seconds s = seconds_between(d.from, d.to);
      n.dark_s += s;
      if (s > longest) longest = s, n.from = d.from;
    }
    n.moon_lit = sky.moon(noon + hours(12)).lit;
    if (n.dark_s > 0) list.push_back(n);
  }
  std::stable_sort(list.begin(), list.end(),
                   [](const Night& a, const Night& b) { return a.dark_s > b.dark_s; });
  return list;
}

std::string look_words(const Ephemeris& sky, Instant at, const Place& place) {
  const double sun = sky.at(Body::Sun, at, place).altitude_deg,
               moon = sky.at(Body::Moon, at, place).altitude_deg;
  const std::string height = sun >= -0.8 ? say("sun {}° up", format_number(std::max(0.0, sun), 0))
                                         : say("sun {}° below the horizon", format_number(-sun, 0));
  const std::string look = sun > 20                ? say("full daylight")
                           : sun > kGoldenHigh_deg ? say("low, plain daylight")
                           : sun > -0.833          ? say("golden light")
                           : sun > kGoldenLow_deg  ? say("the last colour, lamps begin to show")
                           : sun > -6              ? say("blue light")
                           : sun > -12             ? say("deep blue, lamps stand out")
                           : sun > -18             ? say("nearly black sky, first faint stars")
                                                   : say("night, stars");
  std::string text = height + ", " + look;
  if (sun < -6 && moon > 0)
    text +=
        say(", moon {}° up, {} lit", format_number(moon, 0), format_number(sky.moon(at).lit * 100, 0) + " %");
  return text;
}

}  // namespace askcount::sky
