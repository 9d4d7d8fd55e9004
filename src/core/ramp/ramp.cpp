// SPDX-License-Identifier: GPL-3.0-or-later
#include "ramp/ramp.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/dials.h"
#include "base/language.h"

namespace askcount::ramp {
namespace {

const double kThirdsFlicker_stops =
    (1.0 / 3) / std::sqrt(12.0);  // of rounding to thirds: evenly spread errors

/// What the meter says along a chain, through filters until they come off, and how fast the light changes.
void read_meter(Ramp& r, const std::vector<double>& light, double filter_stops, Seconds interval_s) {
  const auto off = r.filters_off ? static_cast<size_t>(*r.filters_off) : light.size();
  for (size_t n = 0; n < light.size(); ++n) {
    r.meter.push_back(meter_stops(light[n] - (n < off ? filter_stops : 0), r.chain[n]));
    r.longest_s = std::max(r.longest_s, r.chain[n].shutter_s);
    const bool anew = std::binary_search(r.days.begin(), r.days.end(), static_cast<long long>(n));
    if (n > 0 && !anew)
      r.worst_stops_per_frame = std::max(r.worst_stops_per_frame, std::abs(light[n] - light[n - 1]));
  }
  r.worst_stops_per_minute = r.worst_stops_per_frame / interval_s * 60;
}

std::vector<double> light_of(const std::vector<double>& ev) {
  std::vector<double> light;
  light.reserve(ev.size());
  for (const double e : ev) light.push_back(light_stops_of_ev(e));
  return light;
}

/// The steps that clicks make, from the chain they lead to.
void add_steps(Ramp& r, const std::vector<Click>& clicks, const std::vector<double>& light,
               const RampRule& rule) {
  const auto off = r.filters_off.value_or(static_cast<long long>(light.size()));
  Exposure now = r.chain.front();
  long long last = -1000000;
  bool filtered = rule.filter_stops > 0 && off > 0;
  auto day = r.days.begin();
  for (const Click& c : clicks) {
    if (c.frame < 0 || c.frame >= static_cast<long long>(light.size())) continue;
    if (filtered && c.frame >= off) {  // set anew, in one go
      filtered = false;
      now = r.chain[static_cast<size_t>(off)];
    }
    for (; day != r.days.end() && *day <= c.frame; ++day) now = r.chain[static_cast<size_t>(*day)];
    const auto after = clicked(now, c.dial, c.brighter, rule);
    if (!after) continue;
    const double seen = light[static_cast<size_t>(c.frame)] - (filtered ? rule.filter_stops : 0);
    RampStep step{c, now, *after, meter_stops(seen, *after), false, c.frame - last < rule.frames_apart};
    const double before = meter_stops(seen, now);
    const auto [low, high] = band_at(rule, light[static_cast<size_t>(c.frame)]);
    step.late = before < low - 1e-6 || before > high + 1e-6;
    r.steps.push_back(step);
    now = *after;
    last = c.frame;
  }
}

/// In thirds, as such a camera sets it; nothing keeps it within the interval.
double automatic_shutter(double ev, const RampRule& rule, Seconds longest_s) {
  const Exposure second{1, rule.start_f, rule.lowest_iso};
  const double light = light_stops_of_ev(ev), middle = (rule.low_stops + rule.high_stops) / 2,
               night = band_at(rule, light).low_stops - rule.low_stops;
  const double need = middle + night - meter_stops(light, second);  // stops from one second
  return std::min(std::exp2(std::round(need * 3) / 3), longest_s);
}

}  // namespace

const char* method_word(Method method) {
  static constexpr const char* words[] = {"hand", "fixed", "aperture priority"};
  return words[static_cast<int>(method)];
}

const char* dial_word(Dial dial) {
  static constexpr const char* words[] = {to_say("shutter"), to_say("aperture"), "ISO"};
  return words[static_cast<int>(dial)];
}

std::string dial_words(Dial dial, const Exposure& e) {
  switch (dial) {
    case Dial::Shutter:
      return format_shutter(marked_shutter(e.shutter_s));
    case Dial::Aperture:
      return "f/" + format_number(marked_f_number(e.f_number), 1);
    case Dial::Iso:
      break;
  }
  return "ISO " + format_number(marked_iso(e.iso), 0);
}

std::string step_words(const RampStep& s) {
  return say("{} {} to {}", s.click.dial == Dial::Iso ? say("from") : say(dial_word(s.click.dial)),
             dial_words(s.click.dial, s.before), dial_words(s.click.dial, s.after));
}

Ramp ramp_by_hand(const std::vector<double>& ev, const RampRule& rule, Seconds interval_s,
                  const std::vector<Click>& moved, const std::vector<long long>& days) {
  Ramp r;
  r.ev = ev;
  if (ev.empty()) return r;
  r.days = days;
  const std::vector<double> light = light_of(ev);
  std::vector<Click> clicks = moved;
  std::stable_sort(clicks.begin(), clicks.end(),
                   [](const Click& a, const Click& b) { return a.frame < b.frame; });
  Following f = follow(light, rule, clicks, days);
  r.chain = std::move(f.chain);
  r.filters_off = f.filters_off;
  read_meter(r, light, rule.filter_stops, interval_s);
  add_steps(r, f.clicks, light, rule);
  for (size_t n = 0; n < r.meter.size(); ++n) {
    const auto [low, high] = band_at(rule, light[n]);
    const double beyond = r.meter[n] > high ? r.meter[n] - high : r.meter[n] < low ? r.meter[n] - low : 0;
    if (std::abs(beyond) < 0.02) continue;
    r.feasible = false;
    if (r.outrun.empty() || r.outrun.back().to + 3 < static_cast<long long>(n))
      r.outrun.push_back({static_cast<long long>(n), static_cast<long long>(n), beyond});
    r.outrun.back().to = static_cast<long long>(n);
    if (std::abs(beyond) > std::abs(r.outrun.back().worst_stops)) r.outrun.back().worst_stops = beyond;
  }
  return r;
}

Ramp ramp_standing(const std::vector<double>& ev, const Exposure& exposure, Seconds interval_s,
                   double filter_stops) {
  Ramp r;
  r.ev = ev;
  r.chain.assign(ev.size(), exposure);
  read_meter(r, light_of(ev), filter_stops, interval_s);
  r.feasible = std::all_of(r.meter.begin(), r.meter.end(),
                           [](double m) { return m <= kClips_stops && m >= kDrowns_stops; });
  return r;
}

Ramp ramp_automatic(const std::vector<double>& ev, const RampRule& rule, Seconds interval_s, Seconds room_s,
                    Seconds longest_s) {
  Ramp r;
  r.ev = ev;
  for (const double e : ev)
    r.chain.push_back({automatic_shutter(e, rule, longest_s), rule.start_f, rule.lowest_iso});
  read_meter(r, light_of(ev), 0, interval_s);
  r.feasible = r.longest_s <= room_s * 1.001;
  return r;
}

std::vector<MethodOutcome> compare(const Ramp& hand, const Exposure& standing, double filter_stops,
                                   const RampRule& rule, Seconds interval_s, Seconds room_s) {
  std::vector<MethodOutcome> list;
  if (hand.ev.empty()) return list;
  MethodOutcome by_hand;
  by_hand.method = Method::Hand;
  by_hand.title = say("By hand");
  by_hand.works = hand.feasible;
  by_hand.longest_s = hand.longest_s;
  by_hand.text = say(
      "{} one-click changes{}. Steps of a third, joined exactly afterwards; somebody has to stay beside it.",
      hand.steps.size(), hand.feasible ? "" : say(", and still the light outruns the rule"));
  list.push_back(by_hand);

  MethodOutcome fixed;
  fixed.method = Method::Fixed;
  fixed.title = say("Fixed exposure");
  fixed.longest_s = standing.shutter_s;
  for (size_t n = 0; n < hand.ev.size(); ++n) {
    const double m = meter_stops(light_stops_of_ev(hand.ev[n]) - filter_stops, standing);
    if (m > kClips_stops && fixed.first_clipped < 0) fixed.first_clipped = static_cast<long long>(n);
    if (m < kDrowns_stops && fixed.first_drowned < 0) fixed.first_drowned = static_cast<long long>(n);
  }
  fixed.works = fixed.first_clipped < 0 && fixed.first_drowned < 0;
  fixed.text =
      fixed.works ? say("The light changes so little that one exposure does. No flicker from dials at all.")
      : fixed.first_clipped >= 0 ? say("Highlights clip from frame {} on. Fine only if day may burn out.",
                                       format_count(fixed.first_clipped + 1))
                                 : say("Shadows go black from frame {} on. Fine if night is meant to fall.",
                                       format_count(fixed.first_drowned + 1));
  list.push_back(fixed);

  MethodOutcome automatic;
  automatic.method = Method::AperturePriority;
  automatic.title = say("Aperture priority");
  automatic.flicker_stops = kThirdsFlicker_stops;
  bool dark_end = false;
  for (size_t n = 0; n < hand.ev.size(); ++n) {
    const double shutter = automatic_shutter(hand.ev[n], rule, std::numeric_limits<double>::max());
    automatic.longest_s = std::max(automatic.longest_s, shutter);
    if (shutter > room_s && automatic.shutter_outgrows < 0)
      automatic.shutter_outgrows = static_cast<long long>(n);
    dark_end = dark_end || std::log2(shutter / room_s) > std::log2(rule.highest_iso / rule.lowest_iso);
  }
  automatic.works = automatic.shutter_outgrows < 0;
  automatic.text = automatic.works
                       ? say("The shutter never outgrows the interval. It steps in thirds whenever it likes: "
                             "about {} stops of flicker to be removed.",
                             format_number(automatic.flicker_stops, 2))
                       : say("At f/{} its shutter outgrows the interval of {} from frame {} on{}. Shots are "
                             "then lost unless ISO follows by itself; about {} stops of flicker.",
                             format_number(marked_f_number(rule.start_f), 1), format_length(interval_s),
                             format_count(automatic.shutter_outgrows + 1),
                             dark_end ? say(", and even the highest ISO does not save it") : "",
                             format_number(automatic.flicker_stops, 2));
  list.push_back(automatic);
  return list;
}

Findings judge(const Ramp& ramp, const JudgedBy& by) {
  const auto& [rule, interval_s, room_s, turning_s, moved, clock] = by;
  Findings list;
  if (ramp.ev.empty()) return list;
  const auto rushed =
      std::count_if(ramp.steps.begin(), ramp.steps.end(), [](const RampStep& s) { return s.rushed; });
  if (ramp.feasible && rushed > 0) {
    list.push_back({"clicks_rushed", Severity::Warning, say("Some clicks come close together"),
                    say("{} changes, {} of them nearer than {} frames; the meter stays in its band.",
                        ramp.steps.size(), rushed, rule.frames_apart)});
  } else if (ramp.feasible) {
    list.push_back({"ramp_follows", Severity::Ok, say("The clicks follow the light"),
                    say("{} changes, never nearer than {}; the meter stays in its band.", ramp.steps.size(),
                        counted(rule.frames_apart, "{} frame", "{} frames"))});
  } else {
    const auto worst = std::max_element(
        ramp.outrun.begin(), ramp.outrun.end(),
        [](const Outrun& a, const Outrun& b) { return std::abs(a.worst_stops) < std::abs(b.worst_stops); });
    const std::string where = say(
        "From {} to {} the meter is up to {} stops {} the band; the light changes by {} stops a minute at "
        "most.",
        clock(worst->from), clock(worst->to), format_number(std::abs(worst->worst_stops), 1),
        worst->worst_stops > 0 ? say("over") : say("under"), format_number(ramp.worst_stops_per_minute, 2));
    const Exposure end = ramp.chain.back();
    const bool dials_end = !clicked(end, Dial::Shutter, true, rule) &&
                           !clicked(end, Dial::Aperture, true, rule) &&
                           !clicked(end, Dial::Iso, true, rule) &&
                           ramp.meter.back() < band_at(rule, light_stops_of_ev(ramp.ev.back())).low_stops;
    // What would help is tried, not guessed.
    std::optional<int> apart;
    for (int n = rule.frames_apart - 1; n >= 1 && !apart && !moved && !dials_end; --n) {
      RampRule tighter = rule;
      tighter.frames_apart = n;
      tighter.frames_apart_late = std::min(rule.frames_apart_late, n);
      if (ramp_by_hand(ramp.ev, tighter, interval_s).feasible) apart = n;
    }
    if (moved)
      list.push_back({"ramp_moved_leaves_band", Severity::Warning, say("Your clicks leave the band"),
                      where + say(" Recalculate them, or move them."), fix::RedoClicks{}});
    else if (dials_end)
      list.push_back({"dials_at_end", Severity::Warning, say("The dials are at their ends"),
                      where + say(" Shutter, aperture and ISO are used up. Allow a higher ISO or a "
                                  "longer shutter, or let the night fall."),
                      fix::AllowIso{rule.highest_iso * 2}});
    else if (apart)
      list.push_back({"light_outruns", Severity::Warning,
                      say("The light changes faster than one click in {} frames", rule.frames_apart),
                      where + say(" Allow {} there.", counted(*apart, "{} frame", "{} frames")),
                      fix::TurnEvery{*apart}});
    else
      list.push_back({"light_outruns", Severity::Stop, say("The light outruns every rule of clicks"),
                      where + say(" Even a click every frame does not follow. Use a shorter "
                                  "interval, or a band wider than {} stops.",
                                  format_number(rule.high_stops - rule.low_stops, 1))});
  }
  if (!ramp.feasible && rushed > 0)
    list.push_back(
        {"clicks_rushed", Severity::Warning, say("Some clicks come close together"),
         say("{} of {} are nearer than {} frames.", rushed, ramp.steps.size(), rule.frames_apart)});
  const double free_s = interval_s - ramp.longest_s;
  if (ramp.longest_s > room_s * 1.001)
    list.push_back({"shutter_leaves_no_room", Severity::Stop, say("No room to turn the dial"),
                    say("The longest shutter, {}, leaves {} of {} for writing and turning.",
                        format_shutter(marked_shutter(ramp.longest_s)),
                        format_length(std::max(0.01, free_s), 1), format_length(interval_s))});
  else if (room_s - ramp.longest_s < turning_s * 0.999)
    list.push_back(
        {"little_room_to_turn", Severity::Warning, say("Little time for the dial"),
         say("With {} open, {} of {} are left for the hand, not the {} you keep for it. Turn in what "
             "is left, or end with a shorter shutter.",
             format_shutter(marked_shutter(ramp.longest_s)),
             format_length(std::max(0.1, room_s - ramp.longest_s), 1), format_length(interval_s),
             format_length(turning_s))});
  else
    list.push_back(
        {"room_to_turn", Severity::Ok, say("Room to turn the dial"),
         say("The shutter stops at {} of a {} interval: {} stay free, and its trail is {} of the step.",
             format_shutter(marked_shutter(ramp.longest_s)), format_length(interval_s),
             format_length(free_s, 1), format_number(ramp.longest_s / interval_s, 2))});
  return list;
}

}  // namespace askcount::ramp
