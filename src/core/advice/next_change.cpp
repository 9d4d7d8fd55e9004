// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/next_change.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "forecast/shoot.h"

namespace askcount::advice {
namespace {

std::string turning_word(const ramp::Click& click) {
  switch (click.dial) {
    case ramp::Dial::Aperture:
      return click.brighter ? say("wider") : say("smaller");
    case ramp::Dial::Shutter:
      return click.brighter ? say("slower") : say("faster");
    case ramp::Dial::Iso:
      break;
  }
  return click.brighter ? say("higher") : say("lower");
}

std::string turn_words(const ramp::RampStep& step) {
  std::string words =
      say("{} one click {}, {} to {}", say(ramp::dial_word(step.click.dial)), turning_word(step.click),
          ramp::dial_words(step.click.dial, step.before), ramp::dial_words(step.click.dial, step.after));
  words[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(words[0])));
  return words;
}

/// A note as it is told: what the window writes by itself stands in English in the journal.
std::string shown_note(const std::string& kept) {
  for (const char* known :
       {to_say("Changed the battery"), to_say("Changed the card"), to_say("On external power")})
    if (kept == known) return say(known);
  return kept;
}

}  // namespace

namespace {

std::string signed_stops(double v) {
  const std::string figure = format_number(std::abs(v), 1);
  return figure == "0" ? figure : (v < 0 ? "−" : "+") + figure;
}

std::string exposure_words(const ramp::Exposure& e) {
  return fmt::format("{}, {}, {}", ramp::dial_words(ramp::Dial::Shutter, e),
                     ramp::dial_words(ramp::Dial::Aperture, e), ramp::dial_words(ramp::Dial::Iso, e));
}

/// Its own hand turns: nobody is to do anything.
bool turns_itself(const journal::ShootState& state) {
  return state.active && state.standin && state.scale <= 0;
}

}  // namespace

NextChange next_change(const take::Take& take, const ramp::Ramp* ramp, const journal::ShootState& state,
                       long long frame) {
  using ramp::Method;
  NextChange next;
  if (take.light.method == Method::Fixed) {
    next.what = say("Keep your hands off");
    next.why = say("The exposure is fixed for the whole take.");
    return next;
  }
  if (take.light.method == Method::AperturePriority) {
    next.what = say("Watch the shutter");
    next.why = say("Aperture priority: it must not outgrow the interval.");
    return next;
  }
  if (!ramp || ramp->ev.empty()) {
    next.what = say("Nothing is asked of you");
    next.why = say("Say where and when, and the clicks that follow the light are told here.");
    return next;
  }
  if (turns_itself(state)) {
    next.what = say("The stand-in's own hand follows the light");
    next.why = say("Let it shoot by the clock, and the dials are yours.");
    return next;
  }
  const journal::Hand hand = journal::hand_at(state, *ramp, forecast::rule_of(take), frame);
  const Seconds frame_s = state.active ? state.real_interval_s() : 0;
  const std::string beyond =
      state.active && hand.beyond != 0
          ? say(" The meter stands {} stops {} its band.", format_number(std::abs(hand.beyond), 1),
                hand.beyond > 0 ? say("over") : say("under"))
          : "";
  const bool off_first =
      hand.filters_off && (hand.rest.empty() || *hand.filters_off <= hand.rest.front().click.frame);
  const bool day_first = hand.new_day && (!off_first || *hand.new_day <= *hand.filters_off) &&
                         (hand.rest.empty() || *hand.new_day <= hand.rest.front().click.frame);
  if (!off_first && !day_first && hand.rest.empty()) {
    next.what = ramp->steps.empty() && hand.beyond == 0 ? say("Nothing to turn") : say("No changes left");
    next.why = (ramp->steps.empty() ? say("The light stays within the band.")
                                    : say("The rest of the take keeps these dials.")) +
               beyond;
    return next;
  }
  long long due = 0;
  if (day_first) {
    due = *hand.new_day;
    next.set = hand.morning;
    next.what = say("The next morning, set {}", exposure_words(hand.morning));
  } else if (off_first) {
    due = *hand.filters_off;
    next.set = hand.after_filters;
    next.what = say("Take the filter off, and set {}", exposure_words(hand.after_filters));
  } else {
    due = hand.rest.front().click.frame;
    next.click = hand.rest.front().click;
    next.what = turn_words(hand.rest.front());
  }
  next.filters_off = off_first && !day_first;
  next.frames_left = std::max(0LL, due - std::max(0LL, frame));
  // To the frame before it, and by day to that day's first.
  next.in_s = day_first && state.scale > 0 && state.active
                  ? std::max(0.0, (state.at_s(due) - state.at_s(std::max(0LL, frame))) / state.scale)
                  : static_cast<double>(next.frames_left) * frame_s;
  next.why = say("After frame {}", format_count(due));
  if (next.in_s > 0) next.why += say(", in {}", format_length(std::max(1.0, std::round(next.in_s))));
  next.why += "." + beyond;
  if (!state.active) next.why += say(" Nothing runs yet.");
  return next;
}

std::string dials_now_words(const take::Take& take, const ramp::Ramp* ramp, const journal::ShootState& state,
                            long long frame) {
  if (!ramp || ramp->ev.empty()) return {};
  const journal::Hand hand = journal::hand_at(state, *ramp, forecast::rule_of(take), frame);
  return say("{}; by the light the meter stands at {}", exposure_words(hand.dials),
             signed_stops(hand.meter.value_or(0)));
}

std::vector<std::string> log_lines(const journal::ShootState& state, const std::string& zone, size_t most) {
  struct Line {
    long long frame;
    std::string text;
  };
  std::vector<Line> lines;
  for (const journal::ShootState::Turn& t : state.turns) {
    const std::string what = t.set ? say("dials at ") + exposure_words(*t.set)
                                   : fmt::format("{} {} {}", say(ramp::dial_word(t.dial)),
                                                 counted(std::abs(t.thirds), "{} click", "{} clicks"),
                                                 turning_word({0, t.dial, t.thirds > 0}));
    lines.push_back(
        {t.frame, say("{}   frame {}   {}{}", format_clock(t.at, zone, true), format_count(t.frame), what,
                      t.planned || t.set ? "" : say(", by yourself"))});
  }
  for (const long long frame : state.skipped)
    lines.push_back({frame, say("frame {}   postponed", format_count(frame))});
  for (const journal::ShootState::Reading& r : state.readings)
    lines.push_back(
        {r.frame, say("frame {}   metered EV {}", format_count(r.frame + 1), format_number(r.ev, 1))});
  for (const journal::ShootState::Note& n : state.notes)
    lines.push_back({n.frame, say("{}frame {}   {}", n.fault.empty() ? "" : "✕ ", format_count(n.frame + 1),
                                  shown_note(n.words))});
  std::stable_sort(lines.begin(), lines.end(),
                   [](const Line& a, const Line& b) { return a.frame > b.frame; });
  std::vector<std::string> texts;
  for (size_t i = 0; i < std::min(most, lines.size()); ++i) texts.push_back(std::move(lines[i].text));
  return texts;
}

}  // namespace askcount::advice
