// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/lanes.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <limits>

#include "base/language.h"
#include "inspect/series.h"

namespace askcount::inspect {
namespace {

constexpr float kUnknown = std::numeric_limits<float>::quiet_NaN();

Lane beat_lane(const ingest::FoundTake& take) {
  Lane lane{LaneKind::Beat, say("Beat"), {}, -1, 1, "s"};
  lane.values.assign(take.frames->size(), kUnknown);
  if (!take.interval_s) return lane;
  std::optional<double> before;
  for (size_t n = 0; n < take.frames->size(); ++n) {
    const auto at = begun_s((*take.frames)[n]);
    if (at && before) {
      const double steps = std::max(1.0, std::round((*at - *before) / std::max(1e-3, *take.interval_s)));
      lane.values[n] = static_cast<float>(*at - *before - steps * *take.interval_s);
    }
    if (at) before = at;
  }
  const float wide = static_cast<float>(std::max(0.5, 0.25 * *take.interval_s));
  lane.low = -wide;
  lane.high = wide;
  return lane;
}

/// A value of each frame that is known, against the take's best, in percent of amplitude.
std::vector<float> percent_of(const Look& look, const std::vector<double>& whole) {
  std::vector<double> seen;
  for (size_t n = 0; n < whole.size(); ++n)
    if (look.frames[n].seen()) seen.push_back(whole[n]);
  const double usual = best_of(seen);
  std::vector<float> out;
  for (size_t n = 0; n < whole.size(); ++n)
    out.push_back(look.frames[n].seen() ? static_cast<float>(100 * std::exp2((whole[n] - usual) / 2))
                                        : kUnknown);
  return out;
}

}  // namespace

std::vector<Lane> lanes_of(const ingest::FoundTake& take, const Look& look, size_t known) {
  const size_t n = take.frames->size();
  Lane still{LaneKind::Still, say("Still"), {}, 0, 4, "px"},
      sharp{LaneKind::Sharp, say("Sharp"), {}, 0, 150, "%"},
      clear{LaneKind::Clear, say("Clear"), {}, 0, 150, "%"},
      alike{LaneKind::Alike, say("Alike"), {}, 0, 5, "%"},
      exposure{LaneKind::Exposure, say("Exposure"), {}, -1, 1, to_say("stops")};
  std::vector<double> fine, coarse;
  for (size_t k = 0; k < std::min(known, look.frames.size()); ++k) {
    const Measures& m = look.frames[k];
    fine.push_back(sharpness(m));
    coarse.push_back(clearness(m));
    still.values.push_back(m.seen() ? std::hypot(m.x, m.y) : kUnknown);
    alike.values.push_back(m.seen() ? 100 * m.odd : kUnknown);
  }
  sharp.values = percent_of(look, fine);
  clear.values = percent_of(look, coarse);
  std::optional<double> first;
  for (size_t k = 0; k < n; ++k) {
    const auto stops = media::relative_stops((*take.frames)[k].info());
    if (stops && !first) first = stops;
    exposure.values.push_back(stops ? static_cast<float>(*stops - *first) : kUnknown);
  }
  std::vector<Lane> lanes{beat_lane(take),  std::move(still), std::move(sharp),
                          std::move(clear), std::move(alike), std::move(exposure)};
  for (Lane& lane : lanes) {
    lane.values.resize(n, kUnknown);
    for (const float v : lane.values)
      if (!std::isnan(v)) lane.low = std::min(lane.low, v), lane.high = std::max(lane.high, v);
  }
  return lanes;
}

std::vector<Tick> ticks_of(const ingest::FoundTake& take, int most) {
  std::vector<Tick> ticks;
  const auto& frames = *take.frames;
  const auto start = take.start(), end = take.end();
  most = std::max(most, 2);
  if (!start || !end || *end <= *start) {
    double step = 1;
    while (static_cast<double>(frames.size()) / step > most)
      step *= step == 1 || std::fmod(std::log10(step), 1) == 0 ? 5 : 2;
    for (size_t n = 0; n < frames.size(); n += static_cast<size_t>(step)) ticks.push_back({n, {}, false});
    return ticks;
  }
  const auto length = std::chrono::duration<double>(*end - *start).count();
  std::int64_t step = 1;
  for (const std::int64_t s : {1,   2,    5,    10,   15,    30,    60,    120,   300,    600,
                               900, 1800, 3600, 7200, 10800, 21600, 43200, 86400, 172800, 604800}) {
    step = s;
    if (length / static_cast<double>(s) <= most) break;
  }
  std::int64_t next = -1;
  for (size_t n = 0; n < frames.size(); ++n) {
    const auto& t = frames[n].exposures.front().info.captured;
    if (!t) continue;
    const std::int64_t seconds = std::chrono::floor<std::chrono::seconds>(t->time_since_epoch()).count();
    if (next < 0) next = (seconds + step - 1) / step * step;
    if (seconds < next) continue;
    const std::int64_t at = seconds / step * step;
    ticks.push_back({n, media::CameraTime(std::chrono::seconds(at)), step < 60});
    next = at + step;
  }
  return ticks;
}

}  // namespace askcount::inspect
