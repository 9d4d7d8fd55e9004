// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/again.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace askcount::book {
namespace {

constexpr double kNear_deg = 0.5, kNearMoon_deg = 2;
constexpr double kNight_deg = -12;  // the sun is that low before the core shows
constexpr double kDay_s = 86400;
constexpr double kMoonAround_s = 29.5 * kDay_s;  // from new moon to new moon

/// Degrees between two directions.
double apart(const sky::Direction& a, const sky::Direction& b) {
  const double rad = std::numbers::pi / 180;
  const double cosine = std::sin(a.altitude_deg * rad) * std::sin(b.altitude_deg * rad) +
                        std::cos(a.altitude_deg * rad) * std::cos(b.altitude_deg * rad) *
                            std::cos((a.azimuth_deg - b.azimuth_deg) * rad);
  return std::acos(std::clamp(cosine, -1.0, 1.0)) / rad;
}

/// The moment of a day at which a body is nearest to a direction: its least distance in steps of five
/// minutes, then by halves.
Again nearest(const sky::Ephemeris& sky, sky::Body body, const sky::Direction& to, const sky::Place& place,
              Instant from) {
  constexpr double kStep_s = 300;
  Again best{from, 1e9, 0};
  const auto look = [&](Instant at) {
    if (const double off = apart(sky.at(body, at, place), to); off < best.off_deg) best = {at, off, 0};
  };
  for (double s = 0; s < kDay_s; s += kStep_s) look(later(from, s));
  for (double step = kStep_s / 2; step > 0.5; step /= 2) {
    const Instant middle = best.at;
    look(later(middle, -step));
    look(later(middle, step));
  }
  return best;
}

}  // namespace

take::Take begun_again(const take::Take& old, const Day& day) {
  take::Take next = old;
  next.card.clear();
  next.gather = {};
  next.ticks.clear();
  next.metered.reset();
  next.light.clicks.clear();
  next.light.weather = {};
  next.light.source.readings.clear();
  next.light.source.anchor.reset();
  next.level.measured.clear();
  next.level.smooth.clear();
  next.level.keep.clear();
  next.look.anchors.clear();
  next.film.choice = {};
  next.film.views.clear();
  next.more_films.clear();
  next.unknown.clear();
  next.start = {};
  if (old.knows_start()) {
    const WallTime was = wall_time(old.start, old.place.zone);
    next.start = at_wall_time(day, was.clock, old.place.zone);
  }
  return next;
}

std::vector<Again> again(sky::Body body, Instant then, const sky::Place& place, Instant from, int days) {
  const auto before = sky::ephemeris_for(then, later(then, 1));
  const sky::Direction stood = before->at(body, then, place);
  const double near = body == sky::Body::Moon ? kNearMoon_deg : kNear_deg;
  const auto sky = sky::ephemeris_for(from, later(from, kDay_s * (days + 1)));
  std::vector<Again> found;
  bool running = false;
  Instant first;  // of the run
  for (int d = 0; d < days; ++d) {
    Again best = nearest(*sky, body, stood, place, later(from, d * kDay_s));
    const bool dark =
        body != sky::Body::Core || sky->at(sky::Body::Sun, best.at, place).altitude_deg < kNight_deg;
    if (best.off_deg > near || !dark) {
      running = false;
      continue;
    }
    best.moon_lit = sky->moon(best.at).lit;
    const bool of_core = body == sky::Body::Core;
    if (running && (!of_core || seconds_between(first, best.at) < kMoonAround_s)) {
      Again& last = found.back();
      if (of_core ? best.moon_lit < last.moon_lit : best.off_deg < last.off_deg) last = best;
    } else {
      found.push_back(best);
      first = best.at;
    }
    running = true;
  }
  return found;
}

}  // namespace askcount::book
