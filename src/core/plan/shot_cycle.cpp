// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/shot_cycle.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"

namespace askcount::plan {
void parse_brackets(std::string_view text, ShotMake& make) {
  const auto x = text.find_first_of("xX");
  const auto wrong = [&] {
    return bad_value(Input::Brackets, say("\"{}\" is not a bracket.", text),
                     say("Write 3x2 for three exposures two stops apart."));
  };
  if (x == std::string_view::npos) throw wrong();
  const long long n = parse_count(text.substr(0, x), Input::Brackets);
  const double stops = parse_positive(text.substr(x + 1), Input::Brackets);
  if (n > 9 || stops > 5) throw wrong();
  make.brackets = static_cast<int>(n);
  make.bracket_stops = stops;
}

std::vector<Seconds> bracket_shutters(const ShotMake& make, Seconds middle_s) {
  std::vector<Seconds> list;
  list.reserve(static_cast<size_t>(std::max(0, make.brackets)));
  for (int i = 0; i < make.brackets; ++i)
    list.push_back(middle_s * std::exp2((i - (make.brackets - 1) / 2.0) * make.bracket_stops));
  return list;
}

ShotShape shape_of(const ShotMake& make, long long spare) {
  ShotShape shape;
  shape.exposures = make.brackets;
  shape.open_factor = 0;
  for (const Seconds s : bracket_shutters(make, 1)) shape.open_factor += s;
  shape.extra_s = (make.brackets - 1) * kBetweenBrackets_s;
  shape.extra_shots = 2 * spare;
  return shape;
}

Seconds ShotCycle::shortest_interval_s() const {
  return std::max(open_s + dark_s + writing_s + turning_s + lock_s, sustained_s);
}

double shot_mb(const ShotMake& make, const Body& body) {
  if (make.movie_mb > 0) return make.movie_mb;
  return make.brackets * ((make.raw ? body.raw_mb : 0) + (make.compressed ? body.compressed_mb : 0));
}

ShotCycle cycle_of(const ShotMake& make, const Body& body, const Card* card, Seconds shutter_s) {
  ShotCycle c;
  double open = 0;
  for (const Seconds s : bracket_shutters(make, shutter_s)) open += s;
  c.open_s = open + (make.brackets - 1) * kBetweenBrackets_s;
  c.dark_s = make.dark_frames ? open : 0;
  c.writing_s = body.writing_s;
  c.writing_takes = body.writing_takes;
  c.turning_s = make.turning_s;
  c.lock_s = make.lock_s;
  c.sustained_s = shot_mb(make, body) / std::min(body.write_mb_s, card ? card->write_mb_s : body.write_mb_s);
  return c;
}

long long heard_every(Seconds busy_s, Seconds interval_s) {
  return std::max(1LL, static_cast<long long>(std::ceil(busy_s / interval_s - 1e-6)));
}

std::string heard_words(long long every) {
  static constexpr const char* words[] = {to_say("every press makes a shot"),
                                          to_say("every press makes a shot"),
                                          to_say("only every second press makes a shot"),
                                          to_say("only every third press makes a shot"),
                                          to_say("only every fourth press makes a shot"),
                                          to_say("only every fifth press makes a shot")};
  return every < 6 ? say(words[every]) : say("only one press in {} makes a shot", format_count(every));
}

Finding judge_cycle(const ShotCycle& c, Seconds interval_s) {
  const std::string open = dial_shutter_words(c.open_s);
  std::string parts = say("{} open", open);
  if (c.dark_s > 0) parts += say(", {} dark frame", format_length(c.dark_s));
  parts += say(", {} writing{}", format_length(c.writing_s), by_takes_words(c.writing_takes));
  if (c.turning_s > 0) parts += say(", {} at the dials", format_length(c.turning_s));
  if (c.lock_s > 0) parts += say(", {} locked by the timer", format_length(c.lock_s));
  const Seconds busy = c.open_s + c.dark_s + c.writing_s + c.turning_s + c.lock_s;
  const double use = std::ceil(c.shortest_interval_s() + 0.2);
  if (interval_s <= c.open_s)
    return {"shutter_longer_than_interval", Severity::Stop, say("The shutter outlasts the interval"),
            say("Open for {} with a shot every {}: {}.", open, format_length(interval_s),
                heard_words(heard_every(busy, interval_s))),
            fix::SetSlot{Slot::Interval, use}};
  if (interval_s < busy)
    return {"camera_busy", Severity::Stop, say("The camera cannot keep up"),
            say("{} do not fit into {}: {}.", parts, format_length(interval_s),
                heard_words(heard_every(busy, interval_s))),
            fix::SetSlot{Slot::Interval, use}};
  return {"camera_keeps_up", Severity::Ok, say("The camera keeps up"),
          say("{} leave {} free in every interval.", parts, format_length(interval_s - busy, 1))};
}

}  // namespace askcount::plan
