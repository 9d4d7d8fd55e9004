// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/when.h"

#include <fmt/format.h>

#include <cctype>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "sky/windows.h"

namespace askcount::advice {
namespace {

constexpr int kDays = 30;
constexpr int kNewDay_hour = 11;
constexpr std::chrono::minutes kJustCut{5};

/// To whole minutes, for the eye.
std::string minutes_words(Seconds seconds) {
  return format_length(std::round(seconds / 60) * 60);
}

Suggestion of_window(const sky::Window& w, const sky::Place& place, Seconds field_s) {
  const Instant end = later(w.start, field_s);
  const auto ephemeris = sky::ephemeris_for(w.start, end);
  Suggestion s{
      w.kind + ", " + day_words(day_of(w.start, place.zone)),
      say("{} First frame: {}; last, at {}: {}.", w.reason, sky::look_words(*ephemeris, w.start, place),
          format_clock(end, place.zone), sky::look_words(*ephemeris, end, place)),
      w.start};
  s.title[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(s.title[0])));
  if (!w.fits)
    s.text += say(" Your {} are longer than this window.", format_length(field_s));
  else if (w.kind == "day into night" && end < w.to - kJustCut)
    s.text += say(" It ends before the blue light is gone: all of it takes {}.",
                  minutes_words(seconds_between(w.start, w.to)));
  return s;
}

void check_knows(const take::Take& take) {
  if (!take.knows_sky())
    throw bad_input(say("Where and when are not said."), say("Say the place and the day."));
}

}  // namespace

Day evening_of(const take::Take& take) {
  const bool morning = wall_time(take.start, take.place.zone).hour() < kNewDay_hour;
  return day_of(take.start - std::chrono::hours(morning ? 12 : 0), take.place.zone);
}

std::vector<Suggestion> windows_for(const take::Take& take) {
  const Seconds field_s = take.sums().field_s;
  check_knows(take);
  std::vector<Suggestion> list;
  std::vector<std::string> missing;
  for (const sky::Window& w : sky::windows_of(evening_of(take), take.place, field_s, &missing))
    list.push_back(of_window(w, take.place, field_s));
  for (const std::string& why : missing) list.push_back({say("Not tonight"), why, {}});
  return list;
}

std::vector<Suggestion> nights_for(const take::Take& take, size_t most) {
  check_knows(take);
  std::vector<Suggestion> list;
  for (const sky::Night& n : sky::best_nights(evening_of(take), kDays, take.place)) {
    if (list.size() == most) return list;
    list.push_back({day_words(n.day),
                    say("{} of darkness with the core up, from {}; moon {} % lit.", minutes_words(n.dark_s),
                        format_clock(n.from, take.place.zone), format_number(n.moon_lit * 100, 0)),
                    n.from});
  }
  if (list.empty())
    list.push_back({say("None"),
                    say("In the coming month it is never dark here with the moon down and the core 10° up."),
                    {}});
  return list;
}

}  // namespace askcount::advice
