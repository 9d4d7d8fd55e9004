// SPDX-License-Identifier: GPL-3.0-or-later
#include "ramp/follow.h"

#include <algorithm>
#include <cmath>

namespace askcount::ramp {
namespace {

constexpr double kClick = 1.0 / 3;
constexpr double kSlack = 1e-6;
const double kMeter = std::log2(100 / 12.5);

/// One click of light more or less, by the first dial of the order that still turns; false where none does.
std::optional<Dial> next_dial(const Exposure& e, bool brighter, const RampRule& rule) {
  for (size_t i = 0; i < 3; ++i) {
    const Dial dial = rule.order[brighter ? i : 2 - i];
    if (clicked(e, dial, brighter, rule)) return dial;
  }
  return {};
}

}  // namespace

double stops_of(const Exposure& e) {
  return std::log2(e.shutter_s * e.iso / 100 / (e.f_number * e.f_number));
}

double meter_stops(double light_stops, const Exposure& e) {
  return light_stops + stops_of(e) + kMeter;
}
double light_stops_of_ev(double ev100) {
  return ev100 - kMeter;
}
Band band_at(const RampRule& rule, double light_stops) {
  constexpr double kDay_ev = 1, kNight_ev = -6;
  const double x = std::clamp((kDay_ev - light_stops - kMeter) / (kDay_ev - kNight_ev), 0.0, 1.0);
  const double down = rule.night_stops * x * x * (3 - 2 * x);
  return {rule.low_stops - down, rule.high_stops - down};
}

std::optional<Exposure> clicked(const Exposure& e, Dial dial, bool brighter, const RampRule& rule) {
  Exposure next = e;
  const double up = std::exp2(kClick), half = std::exp2(kClick / 2);
  switch (dial) {
    case Dial::Shutter:
      next.shutter_s = brighter ? e.shutter_s * up : e.shutter_s / up;
      if (brighter ? next.shutter_s > rule.longest_shutter_s * (1 + kSlack)
                   : next.shutter_s < rule.shortest_shutter_s * (1 - kSlack))
        return {};
      break;
    case Dial::Aperture:
      next.f_number = brighter ? e.f_number / half : e.f_number * half;
      if (brighter ? next.f_number < rule.widest_f * 0.98 : next.f_number > rule.start_f * 1.02) return {};
      break;
    case Dial::Iso:
      next.iso = brighter ? e.iso * up : e.iso / up;
      if (brighter ? next.iso > rule.highest_iso * 1.01 : next.iso < rule.lowest_iso * 0.99) return {};
      break;
  }
  return next;
}

Exposure start_exposure(double light_stops, const RampRule& rule, double filter_stops) {
  Exposure now;
  now.f_number = rule.start_f;
  now.iso = rule.lowest_iso;
  now.shutter_s = std::exp2(std::floor(std::log2(rule.longest_shutter_s) * 3 + kSlack) / 3);
  const double seen = light_stops - filter_stops;
  const double start = band_at(rule, light_stops).high_stops - kSlack;
  const auto turn = [&](bool brighter) {
    const auto dial = next_dial(now, brighter, rule);
    if (dial) now = *clicked(now, *dial, brighter, rule);
    return dial.has_value();
  };
  if (rule.begin) {
    now = *rule.begin;
    now.shutter_s = std::clamp(now.shutter_s, rule.shortest_shutter_s, rule.longest_shutter_s);
    const double meter = meter_stops(seen, now);
    const auto [low, high] = band_at(rule, light_stops);
    if (meter >= low - kSlack && meter <= high + kClick / 2) return now;  // as it was metered
  }
  while (meter_stops(seen, now) > start && turn(false)) {
  }
  while (meter_stops(seen, now) < start - kClick && turn(true)) {
  }
  return now;
}

std::vector<Click> clicks_for(const std::vector<double>& light_stops, const RampRule& rule,
                              const Exposure& start, double filter_stops, int since) {
  std::vector<Click> clicks;
  Exposure now = start;
  for (size_t n = 0; n < light_stops.size(); ++n, ++since) {
    const double m = meter_stops(light_stops[n] - filter_stops, now);
    const auto [low, high] = band_at(rule, light_stops[n]);
    const bool outside = m < low || m > high;
    if (n == 0 || since < (outside ? rule.frames_apart_late : rule.frames_apart)) continue;
    const bool brighter = m < low + 2 * kClick - kSlack && m + kClick <= high;
    if (!brighter && m <= high) continue;
    const auto dial = next_dial(now, brighter, rule);
    if (!dial) continue;
    now = *clicked(now, *dial, brighter, rule);
    clicks.push_back({static_cast<long long>(n), *dial, brighter});
    since = 0;
  }
  return clicks;
}

std::vector<Exposure> chain_of(const Exposure& start, const std::vector<Click>& clicks, long long frames,
                               const RampRule& rule) {
  std::vector<Exposure> chain;
  chain.reserve(static_cast<size_t>(std::max(0LL, frames)));
  Exposure now = start;
  size_t at = 0;
  for (long long n = 0; n < frames; ++n) {
    for (; at < clicks.size() && clicks[at].frame <= n; ++at)
      if (const auto next = clicked(now, clicks[at].dial, clicks[at].brighter, rule)) now = *next;
    chain.push_back(now);
  }
  return chain;
}

std::optional<long long> filters_off(const std::vector<double>& light_stops, const RampRule& rule) {
  if (rule.filter_stops <= 0) return {};
  const Exposure longest{rule.longest_shutter_s, rule.start_f, rule.lowest_iso};
  for (size_t n = 0; n < light_stops.size(); ++n)
    if (meter_stops(light_stops[n] - rule.filter_stops, longest) < band_at(rule, light_stops[n]).low_stops)
      return static_cast<long long>(n);
  return {};
}

Following follow(const std::vector<double>& light_stops, const RampRule& rule,
                 const std::vector<Click>& moved, const std::vector<long long>& days) {
  Following f;
  if (light_stops.empty()) return f;
  if (days.empty()) f.filters_off = filters_off(light_stops, rule);
  const auto all = static_cast<long long>(light_stops.size());
  const auto part = [&](long long from, long long to, double filter_stops) {
    if (from >= to) return;
    const std::vector<double> light(light_stops.begin() + from, light_stops.begin() + to);
    const Exposure start = start_exposure(light.front(), rule, filter_stops);
    std::vector<Click> clicks;
    if (moved.empty())
      clicks = clicks_for(light, rule, start, filter_stops);
    else
      for (const Click& c : moved)
        if (c.frame >= from && c.frame < to) clicks.push_back({c.frame - from, c.dial, c.brighter});
    const auto chain = chain_of(start, clicks, to - from, rule);
    f.chain.insert(f.chain.end(), chain.begin(), chain.end());
    for (const Click& c : clicks) f.clicks.push_back({c.frame + from, c.dial, c.brighter});
  };
  const long long off = rule.filter_stops > 0 ? f.filters_off.value_or(all) : 0;
  long long from = 0;
  for (const long long day : days) part(from, day, rule.filter_stops), from = std::max(from, day);
  part(from, std::max(from, off), rule.filter_stops);
  part(std::max(from, off), all, 0);
  return f;
}

std::vector<Exposure> follow_light(const std::vector<double>& light_stops, const RampRule& rule) {
  return follow(light_stops, rule).chain;
}

std::vector<Click> clicks_along(const std::vector<Exposure>& chain) {
  std::vector<Click> clicks;
  for (size_t n = 1; n < chain.size(); ++n) {
    const Exposure &a = chain[n - 1], &b = chain[n];
    const std::pair<Dial, double> stops[] = {{Dial::Shutter, std::log2(b.shutter_s / a.shutter_s)},
                                             {Dial::Aperture, -2 * std::log2(b.f_number / a.f_number)},
                                             {Dial::Iso, std::log2(b.iso / a.iso)}};
    for (const auto& [dial, by] : stops)
      for (long k = std::lround(std::abs(by) / kClick); k > 0; --k)
        clicks.push_back({static_cast<long long>(n), dial, by > 0});
  }
  return clicks;
}

}  // namespace askcount::ramp
