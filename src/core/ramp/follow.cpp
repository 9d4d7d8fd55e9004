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

Exposure start_exposure(double light_stops, const RampRule& rule) {
  Exposure now;
  now.f_number = rule.start_f;
  now.iso = rule.lowest_iso;
  now.shutter_s = std::exp2(std::floor(std::log2(rule.longest_shutter_s) * 3 + kSlack) / 3);
  const double start = rule.high_stops - kSlack;
  const auto turn = [&](bool brighter) {
    const auto dial = next_dial(now, brighter, rule);
    if (dial) now = *clicked(now, *dial, brighter, rule);
    return dial.has_value();
  };
  while (meter_stops(light_stops, now) > start && turn(false)) {
  }
  while (meter_stops(light_stops, now) < start - kClick && turn(true)) {
  }
  return now;
}

std::vector<Click> clicks_for(const std::vector<double>& light_stops, const RampRule& rule,
                              const Exposure& start) {
  std::vector<Click> clicks;
  Exposure now = start;
  int since = rule.frames_apart;
  for (size_t n = 0; n < light_stops.size(); ++n, ++since) {
    const double m = meter_stops(light_stops[n], now);
    const bool outside = m < rule.low_stops || m > rule.high_stops;
    if (n == 0 || since < (outside ? rule.frames_apart_late : rule.frames_apart)) continue;
    const bool brighter = m < rule.low_stops + 2 * kClick - kSlack && m + kClick <= rule.high_stops;
    if (!brighter && m <= rule.high_stops) continue;
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

std::vector<Exposure> follow_light(const std::vector<double>& light_stops, const RampRule& rule) {
  if (light_stops.empty()) return {};
  const Exposure start = start_exposure(light_stops.front(), rule);
  return chain_of(start, clicks_for(light_stops, rule, start), static_cast<long long>(light_stops.size()),
                  rule);
}

}  // namespace askcount::ramp
