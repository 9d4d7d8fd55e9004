// SPDX-License-Identifier: GPL-3.0-or-later
// askcount forecast: every press of a take worked out.
#include "forecast/forecast.h"

#include <fmt/format.h>

#include <memory>

#include "base/language.h"
#include "base/units.h"
#include "take/take.h"
#include "take_options.h"
#include "verbs.h"

namespace askcount::cli {
namespace {

struct ForecastAsked {
  std::string take;
  bool shots = false;
};

std::string clock_words(const take::Take& take, Seconds at_s) {
  return take.knows_start() ? format_clock(later(take.start, at_s), take.place.zone, true)
                            : format_length(std::round(at_s));
}

std::string words_of_days(const take::Take& take, const forecast::Forecast& f) {
  constexpr size_t kMost = 12;
  std::string words;
  for (size_t n = 0; n < f.days.size(); ++n) {
    if (f.days.size() > kMost && n == kMost - 1) {
      words += fmt::format("... and {} more days.\n", f.days.size() - kMost);
      n = f.days.size() - 1;
    }
    const forecast::ForecastDay& d = f.days[n];
    words += fmt::format("{:12} {} to {}  {}\n", d.date ? format_day(*d.date) : fmt::format("day {}", n + 1),
                         clock_words(take, d.from_s), clock_words(take, d.until_s),
                         d.frames == d.shots ? counted(d.frames, "{} frame", "{} frames")
                                             : fmt::format("{} of {}", format_count(d.frames),
                                                           counted(d.shots, "{} frame", "{} frames")));
  }
  return words;
}

std::string words_of_shots(const take::Take& take, const forecast::Forecast& f) {
  std::string words;
  for (size_t n = 0; n < f.shots.size(); ++n) {
    const forecast::Shot& s = f.shots[n];
    const bool heard = s.heard == plan::Heard::Yes;
    words += fmt::format(
        "{:>6}  {}  {:>9}{}{}{}\n", n + 1, clock_words(take, s.at_s),
        ramp::dial_words(ramp::Dial::Shutter, s.exposure),
        s.dials_known ? fmt::format("  {:>5}  {:>8}", ramp::dial_words(ramp::Dial::Aperture, s.exposure),
                                    ramp::dial_words(ramp::Dial::Iso, s.exposure))
                      : "",
        s.meter_stops ? fmt::format("  meter {:+.1f}", *s.meter_stops) : "",
        heard ? "" : fmt::format("  lost ({})", s.pressed ? plan::heard_word(s.heard) : "timer"));
  }
  return words;
}

Answer forecast_verb(const ForecastAsked& asked) {
  const take::Take take = take::load_take(asked.take);
  const forecast::Forecast f =
      forecast::forecast_of(take, asked.shots ? forecast::Detail::Shots : forecast::Detail::Summary);
  Answer answer;
  answer.json = forecast::to_json(take, f);
  const std::string end = forecast::end_words(take, f);
  answer.words =
      words_of_days(take, f) +
      (end.empty() ? fmt::format("All {} come: {} of film.\n", counted(f.planned, "{} frame", "{} frames"),
                                 format_length(f.film_s, 1))
                   : fmt::format("{} That is {} of film.\n", end, format_length(f.film_s, 1)));
  if (asked.shots) answer.words = words_of_shots(take, f) + answer.words;
  return answer;
}

}  // namespace

void add_forecast(Command& app, Chosen& chosen) {
  const Verb verb = add_verb(app, chosen, "forecast",
                             "Work out every press: what the camera hears, what is left, what ends the take");
  const auto asked = std::make_shared<ForecastAsked>();
  verb.add_option("take", asked->take, "The take (.askcount)").required();
  verb.add_flag("--shots", asked->shots, "List every press");
  verb.callback([&chosen, asked] { chosen.run = [asked] { return forecast_verb(*asked); }; });
}

}  // namespace askcount::cli
