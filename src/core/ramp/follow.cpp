#include "ramp/follow.h"

#include <algorithm>
#include <cmath>

namespace askcount::ramp {
namespace {

constexpr double kClick = 1.0 / 3;
constexpr double kSlack = 1e-6;

/// One click more light; false where every dial is at its end.
bool brighter(Exposure& e, const RampRule& rule) {
  if (e.shutter_s * std::exp2(kClick) <= rule.longest_shutter_s * (1 + kSlack)) e.shutter_s *= std::exp2(kClick);
  else if (e.f_number / std::exp2(kClick / 2) >= rule.widest_f * (1 - 0.02)) e.f_number /= std::exp2(kClick / 2);
  else if (e.iso * std::exp2(kClick) <= rule.highest_iso * (1 + 0.01)) e.iso *= std::exp2(kClick);
  else return false;
  return true;
}

bool darker(Exposure& e, const RampRule& rule) {
  if (e.iso / std::exp2(kClick) >= rule.lowest_iso * (1 - 0.01)) e.iso /= std::exp2(kClick);
  else if (e.f_number * std::exp2(kClick / 2) <= rule.start_f * (1 + 0.02)) e.f_number *= std::exp2(kClick / 2);
  else if (e.shutter_s / std::exp2(kClick) >= rule.shortest_shutter_s) e.shutter_s /= std::exp2(kClick);
  else return false;
  return true;
}

}  // namespace

double stops_of(const Exposure& e) { return std::log2(e.shutter_s * e.iso / 100 / (e.f_number * e.f_number)); }

double meter_stops(double light_stops, const Exposure& e) {
  return light_stops + stops_of(e) + std::log2(100 / 12.5);
}

std::vector<Exposure> follow_light(const std::vector<double>& light_stops, const RampRule& rule) {
  std::vector<Exposure> chain;
  if (light_stops.empty()) return chain;
  chain.reserve(light_stops.size());
  Exposure now;
  now.f_number = rule.start_f;
  now.iso = rule.lowest_iso;
  now.shutter_s = std::exp2(std::floor(std::log2(rule.longest_shutter_s) * 3 + kSlack) / 3);
  const auto meter = [&](size_t n) { return meter_stops(light_stops[n], now); };
  const double start = rule.high_stops - kClick;
  while (meter(0) > start && darker(now, rule)) {}
  while (meter(0) < start - kClick && brighter(now, rule)) {}
  int since = rule.frames_apart;
  for (size_t n = 0; n < light_stops.size(); ++n, ++since) {
    const double m = meter(n);
    const bool outside = m < rule.low_stops || m > rule.high_stops;
    if (n > 0 && since >= (outside ? rule.frames_apart_late : rule.frames_apart)) {
      const bool turned = m < rule.low_stops + 2 * kClick - kSlack && m + kClick <= rule.high_stops
                              ? brighter(now, rule)
                              : m > rule.high_stops && darker(now, rule);
      if (turned) since = 0;
    }
    chain.push_back(now);
  }
  return chain;
}

}  // namespace askcount::ramp
