// SPDX-License-Identifier: GPL-3.0-or-later
#include "sky/behind.h"

#include <algorithm>

#include <fmt/format.h>

#include "base/language.h"
#include "base/units.h"

namespace askcount::sky {
namespace {

constexpr std::chrono::minutes kLeast{1};
constexpr double kFastest_deg_per_s = 15.1 / 3600;  // of a body's height

}  // namespace

std::vector<Behind> behind(const Ephemeris& sky, Body body, const Place& place,
                           const std::vector<HorizonPoint>& horizon, Instant from, Instant to) {
  double lowest = 0, highest = 0;
  for (const HorizonPoint& p : horizon) {
    lowest = std::min(lowest, p.altitude_deg);
    highest = std::max(highest, p.altitude_deg);
  }
  struct Seen {
    bool above;
    double clear_deg;  // of every height the skyline has
  };
  const auto look = [&](Instant t) {
    const Direction d = sky.at(body, t, place);
    return Seen{d.altitude_deg > horizon_at(horizon, d.azimuth_deg),
                std::max(d.altitude_deg - highest, lowest - d.altitude_deg)};
  };
  std::vector<Behind> list;
  if (to <= from) return list;
  // A roof is a few degrees wide: the sky turns through one in four minutes. Far above all roofs, or below,
  // nothing can happen for as long as it takes to get there.
  const auto stride = std::clamp<std::chrono::milliseconds>((to - from) / 2000, std::chrono::seconds(30),
                                                            std::chrono::minutes(2));
  Seen seen = look(from);
  bool before = seen.above;
  for (Instant a = from; a < to;) {
    Instant low = a;
    const auto clear =
        std::chrono::milliseconds(static_cast<long long>(seen.clear_deg / kFastest_deg_per_s * 1000));
    Instant high = std::min<Instant>(a + std::max(stride, clear), to);
    a = high;
    seen = look(high);
    const bool now = seen.above;
    if (now == before) continue;
    while (high - low > std::chrono::milliseconds(500)) {
      const Instant middle = low + (high - low) / 2;
      (look(middle).above == before ? low : high) = middle;
    }
    // Behind a mast and out again is nothing to say.
    if (!list.empty() && high - list.back().at < kLeast)
      list.pop_back();
    else
      list.push_back({body, before, high, sky.at(body, high, place)});
    before = now;
  }
  return list;
}

std::string behind_words(const Behind& b, const std::string& zone) {
  static constexpr const char* names[] = {to_say("The sun"), to_say("The moon"), to_say("The galaxy's core")};
  return say("{} {} the skyline at {}, {}° up in bearing {}°.", say(names[static_cast<int>(b.body)]),
             b.goes ? say("goes behind") : say("comes out from behind"), format_clock(b.at, zone),
             format_number(b.where.altitude_deg, 1), format_number(b.where.azimuth_deg, 0));
}

}  // namespace askcount::sky
