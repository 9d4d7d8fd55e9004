// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/shots.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace askcount::ingest {
namespace {

using media::Exposure;

constexpr size_t kMostEach = 9;                          // exposures of a bracket
constexpr double kSameStops = 0.2;                       // exposures that are alike, in stops
constexpr double kLeastRange = 0.6;                      // of a bracket, in stops
constexpr double kMostlyWhole = 0.8;                     // shots that have all of their exposures
constexpr double kClockFine = 0.02, kClockWhole = 1.01;  // how far off a time may be, in seconds

/// What is known of each exposure.
struct Exposed {
  std::vector<std::optional<double>> at, stops;
  double clock_s = kClockFine;

  explicit Exposed(const std::vector<Exposure>& exposures) {
    for (const Exposure& e : exposures) {
      at.push_back(e.info.captured ? std::optional(media::seconds_of(*e.info.captured)) : std::nullopt);
      stops.push_back(media::relative_stops(e.info));
      if (e.info.whole_seconds) clock_s = kClockWhole;
    }
  }
  size_t size() const { return at.size(); }
  /// Seconds from exposure i to the next; nothing where one of them has no time.
  std::optional<double> gap(size_t i) const {
    if (i + 1 >= size() || !at[i] || !at[i + 1]) return {};
    return *at[i + 1] - *at[i];
  }
};

/// How a bracket comes: this many exposures, and what tells one from the next.
struct Ladder {
  size_t each = 1;
  std::vector<double> stops;       ///< of each against the first; empty where they are not known
  double inside = 0, between = 0;  ///< longest gap within, shortest between
  bool by_time = false;
};

/// The exposures from `from` on against the first of them; empty where one is not known.
std::vector<double> relative(const Exposed& e, size_t from, size_t each) {
  std::vector<double> list;
  if (from + each > e.size()) return {};
  for (size_t k = 0; k < each; ++k) {
    if (!e.stops[from + k] || !e.stops[from]) return {};
    list.push_back(*e.stops[from + k] - *e.stops[from]);
  }
  return list;
}

bool alike(const std::vector<double>& a, const std::vector<double>& b) {
  return a.size() == b.size() && std::equal(a.begin(), a.end(), b.begin(),
                                            [](double x, double y) { return std::abs(x - y) <= kSameStops; });
}

bool varies(const std::vector<double>& stops) {
  if (stops.empty()) return false;
  const auto [low, high] = std::minmax_element(stops.begin(), stops.end());
  return *high - *low >= kLeastRange;
}

/// Whether the next shot's exposures begin where this one's did, and are no ramp that went on.
bool comes_back(const Exposed& e, size_t from, size_t next, const std::vector<double>& stops) {
  const auto [low, high] = std::minmax_element(stops.begin(), stops.end());
  return *high - *low < kLeastRange || std::abs(*e.stops[next] - *e.stops[from]) < 0.4 * (*high - *low);
}

/// The pattern that begins at `from` and repeats at once, if there is one.
std::optional<Ladder> pattern_at(const Exposed& e, size_t from) {
  for (size_t each = 2; each <= kMostEach; ++each) {
    Ladder p;
    p.each = each;
    p.stops = relative(e, from, each);
    const bool bracket = varies(p.stops);
    // A bracket shows in two shots where times set them apart; exposures that are all alike, or times that
    // tell nothing, must repeat longer to be believed.
    p.inside = 0;
    p.between = 1e18;
    size_t repeats = 1;
    bool steady = true;
    for (size_t g = from; steady && g + each <= e.size() && repeats <= 4; g += each, ++repeats) {
      for (size_t k = 0; k + 1 < each && steady; ++k) {
        const auto gap = e.gap(g + k);
        steady = gap.has_value();
        if (gap) p.inside = std::max(p.inside, *gap);
      }
      if (g > from) {
        steady = steady && e.gap(g - 1).has_value() &&
                 (p.stops.empty() ||
                  (alike(relative(e, g, each), p.stops) && comes_back(e, g - each, g, p.stops)));
        if (steady) p.between = std::min(p.between, *e.gap(g - 1));
      }
      if (!steady) break;
    }
    const size_t shots = repeats - 1;
    p.by_time = shots >= 2 && p.between >= (bracket ? 2 : 3) * p.inside + e.clock_s;
    if (bracket && p.by_time && shots >= 2) return p;
    if (p.by_time && shots >= 4) return p;
    if (bracket && shots >= 4 && p.between + e.clock_s >= p.inside) return p;
  }
  return {};
}

/// The shots from `from` on for as long as the pattern goes on.
std::vector<Shot> follow(const Exposed& e, size_t from, const Ladder& p) {
  std::vector<Shot> shots;
  const bool bracket = varies(p.stops);
  const double apart = p.by_time ? std::max((p.inside + p.between) / 2, p.inside + e.clock_s / 2) : 0;
  size_t at = from, odd = 0, strange = 0;
  while (at < e.size() && odd < 3) {
    size_t count = 1;
    if (p.by_time) {
      while (count < p.each && at + count < e.size()) {
        const auto gap = e.gap(at + count - 1);
        if (gap && *gap > apart) break;  // one without a time belongs to the shot it stands in
        ++count;
      }
    } else {
      if (!alike(relative(e, at, p.each), p.stops)) break;
      count = p.each;
    }
    odd = count == p.each ? 0 : odd + 1;
    // Exposures that do not step as a bracket's do are another way to shoot.
    const std::vector<double> stops = relative(e, at, count);
    strange = bracket && count == p.each && !stops.empty() && !varies(stops) ? strange + 1 : 0;
    shots.push_back({at, count});
    at += count;
    if (strange >= 3) {
      shots.resize(shots.size() - strange);
      break;
    }
  }
  while (!shots.empty() && shots.back().count != p.each) shots.pop_back();
  const auto whole =
      std::count_if(shots.begin(), shots.end(), [&](const Shot& s) { return s.count == p.each; });
  if (static_cast<double>(whole) < kMostlyWhole * static_cast<double>(shots.size())) shots.clear();
  return shots;
}

}  // namespace

std::vector<Shot> shots_of(const std::vector<Exposure>& exposures) {
  const Exposed e(exposures);
  std::vector<Shot> shots;
  for (size_t i = 0; i < e.size();) {
    if (const auto pattern = pattern_at(e, i)) {
      const std::vector<Shot> found = follow(e, i, *pattern);
      if (found.size() >= 2) {
        shots.insert(shots.end(), found.begin(), found.end());
        i = found.back().first + found.back().count;
        continue;
      }
    }
    shots.push_back({i, 1});
    ++i;
  }
  return shots;
}

}  // namespace askcount::ingest
