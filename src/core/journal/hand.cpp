// SPDX-License-Identifier: GPL-3.0-or-later
#include "journal/hand.h"

#include <algorithm>
#include <cmath>

namespace askcount::journal {
namespace {

constexpr size_t kAhead = 3000;  // frames that are looked ahead
constexpr double kAlike_stops = 0.01;

bool alike(const ramp::Exposure& a, const ramp::Exposure& b) {
  return std::abs(std::log2(a.shutter_s / b.shutter_s)) < kAlike_stops &&
         std::abs(std::log2(a.f_number / b.f_number)) < kAlike_stops &&
         std::abs(std::log2(a.iso / b.iso)) < kAlike_stops;
}

/// A hand may turn further than the plan's rule.
ramp::RampRule free_rule(ramp::RampRule rule) {
  rule.longest_shutter_s = 3600;
  rule.shortest_shutter_s = 1e-6;
  rule.widest_f = 0.5;
  rule.start_f = 128;
  rule.lowest_iso = 1;
  rule.highest_iso = 1e7;
  return rule;
}

/// The light from a frame on, as the newest reading has it.
std::vector<double> light_from(const ShootState& state, const ramp::Ramp& plan, size_t from) {
  double shift = 0;
  if (!state.readings.empty()) {
    const ShootState::Reading& r = state.readings.back();
    const auto at =
        static_cast<size_t>(std::clamp<long long>(r.frame, 0, static_cast<long long>(plan.ev.size()) - 1));
    shift = r.ev - plan.ev[at];
  }
  std::vector<double> light;
  for (size_t n = from; n < plan.ev.size() && light.size() < kAhead; ++n)
    light.push_back(ramp::light_stops_of_ev(plan.ev[n] + shift));
  return light;
}

/// The day that begins next, or has begun and for which the dials were not set yet.
std::optional<long long> new_day(const ShootState& state, const ramp::Ramp& plan, long long frame) {
  const auto next = std::upper_bound(plan.days.begin(), plan.days.end(), frame);
  if (state.active && next != plan.days.begin()) {
    const long long today = *(next - 1);
    const bool set = std::any_of(state.turns.begin(), state.turns.end(),
                                 [today](const ShootState::Turn& t) { return t.set && t.frame >= today; });
    const bool put_off =
        std::any_of(state.skipped.begin(), state.skipped.end(), [today](long long n) { return n >= today; });
    if (!set && !put_off) return today;
  }
  return next == plan.days.end() ? std::nullopt : std::optional(*next);
}

/// Frames since the hand last did something, or put it off.
long long since_last(const ShootState& state, long long frame) {
  long long last = -1000000;
  for (const ShootState::Turn& t : state.turns) last = std::max(last, t.frame);
  for (const long long skipped : state.skipped) last = std::max(last, skipped);
  return frame - last;
}

}  // namespace

ramp::Exposure dials_of(const ShootState& state, const ramp::Exposure& first, const ramp::RampRule& rule) {
  const ramp::RampRule any = free_rule(rule);
  ramp::Exposure now = state.first_dials.value_or(first);
  for (const ShootState::Turn& t : state.turns) {
    if (t.set) now = *t.set;
    for (int k = std::abs(t.thirds); k > 0; --k)
      if (const auto next = ramp::clicked(now, t.dial, t.thirds > 0, any)) now = *next;
  }
  return now;
}

Hand hand_at(const ShootState& state, const ramp::Ramp& plan, const ramp::RampRule& rule, long long frame) {
  Hand hand;
  const auto last = static_cast<long long>(plan.ev.size()) - 1;
  const auto at = static_cast<size_t>(std::clamp(frame, 0LL, last));
  hand.dials =
      state.active || !state.turns.empty() ? dials_of(state, plan.chain.front(), rule) : plan.chain[at];
  hand.filters_on = rule.filter_stops > 0 &&
                    (state.active ? !state.filters_off : !plan.filters_off || frame < *plan.filters_off);
  const double filter_stops = hand.filters_on ? rule.filter_stops : 0;
  const std::vector<double> light = light_from(state, plan, at);
  hand.meter = ramp::meter_stops(light.front() - filter_stops, hand.dials);
  const auto [low, high] = ramp::band_at(rule, light.front());
  hand.beyond = *hand.meter > high ? *hand.meter - high : *hand.meter < low ? *hand.meter - low : 0;
  hand.new_day = new_day(state, plan, frame);
  if (hand.new_day) hand.morning = plan.chain[static_cast<size_t>(*hand.new_day)];
  if (hand.new_day && *hand.new_day <= frame) return hand;  // that comes before any click
  const bool by_plan = state.readings.empty() && state.skipped.empty() && alike(hand.dials, plan.chain[at]);
  if (by_plan) {
    for (const ramp::RampStep& s : plan.steps)
      if (s.click.frame > frame) hand.rest.push_back(s);
    if (hand.filters_on && plan.filters_off) {
      hand.filters_off = std::max(*plan.filters_off, frame + 1);
      hand.after_filters = plan.chain[static_cast<size_t>(std::min(*hand.filters_off, last))];
    }
    return hand;
  }
  // Off the plan: from here by the rule.
  size_t until = light.size();
  if (hand.new_day) until = std::min(until, static_cast<size_t>(*hand.new_day) - at);
  if (hand.filters_on) {
    ramp::RampRule filtered = rule;
    if (const auto off = ramp::filters_off(light, filtered)) {
      until = std::min(until, static_cast<size_t>(*off));
      hand.filters_off = std::max(frame + 1, static_cast<long long>(at) + *off);
      hand.after_filters = ramp::start_exposure(light[static_cast<size_t>(*off)], rule);
    }
  }
  const std::vector<double> here(light.begin(), light.begin() + static_cast<long>(until));
  ramp::Exposure now = hand.dials;
  for (const ramp::Click& c :
       ramp::clicks_for(here, rule, hand.dials, filter_stops,
                        static_cast<int>(std::min(1000LL, since_last(state, frame))))) {
    const auto after = ramp::clicked(now, c.dial, c.brighter, rule);
    if (!after) continue;
    const double seen = here[static_cast<size_t>(c.frame)] - filter_stops;
    hand.rest.push_back({{c.frame + static_cast<long long>(at), c.dial, c.brighter},
                         now,
                         *after,
                         ramp::meter_stops(seen, *after),
                         false,
                         false});
    now = *after;
  }
  return hand;
}

}  // namespace askcount::journal
