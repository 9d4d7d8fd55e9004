// SPDX-License-Identifier: GPL-3.0-or-later
// Every press of a take worked out once: when it comes, whether the camera hears it, what is on the dials,
// what is left, and what ends the take.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/json.h"
#include "forecast/exposure.h"
#include "plan/camera_state.h"
#include "plan/schedule.h"
#include "ramp/ramp.h"
#include "take/take.h"

namespace askcount::forecast {

/// What ends a take.
enum class End { Plan, Battery, Bank, Card, Timer, Light };
const char* end_word(End end);  ///< "plan", "battery", "power bank", "card", "timer", "light"

/// What becomes of one press of the timer.
struct Shot {
  Seconds at_s = 0;          ///< from the take's start
  ramp::Exposure exposure;   ///< on the dials
  bool dials_known = false;  ///< otherwise only the shutter is
  bool pressed = true;       ///< false where the timer has counted to its end
  plan::Heard heard = plan::Heard::Yes;
  std::optional<double> meter_stops;  ///< over the meter; nothing where the light is not known
  double left = 1;                    ///< share of power or of cards that is left, the smaller
};

/// One day that is shot.
struct ForecastDay {
  std::optional<Day> date;  ///< where the start is known
  Seconds from_s = 0;       ///< its first opening, from the take's start
  Seconds until_s = 0;      ///< its last closing
  long long shots = 0;      ///< planned
  long long frames = 0;     ///< that will come
};

/// What a take will be.
struct Forecast {
  plan::Schedule schedule;
  long long planned = 0;                   ///< presses of the timer
  long long frames = 0;                    ///< shots that will come
  long long lost = 0;                      ///< presses the camera does not hear before the take ends
  std::optional<long long> first_lost;     ///< press, from 0
  plan::Heard lost_to = plan::Heard::Yes;  ///< why the first is lost
  End ends_by = End::Plan;
  long long ends_at =
      0;               ///< presses until it ends; with End::Light more frames come, of which nothing is seen
  Seconds ends_s = 0;  ///< the last closing before that, from the take's start
  double film_s = 0;   ///< what comes, at the film's rate
  std::vector<ForecastDay> days;
  std::vector<Shot> shots;  ///< of every press, where asked for
};

/// Whether a forecast has a list of shots.
enum class Detail { Summary, Shots };

/// The forecast of a take. What comes along counts only where the kit is the person's, a timer's limit only
/// where somebody has named the timer. Batteries, banks and cards are changed as they run out; nobody starts
/// a timer again that has counted to its end, but on each day. Pure; 32,000 shots within 16 ms. Throws
/// BadInput where the wishes are too few.
Forecast forecast_of(const take::Take& take, Detail detail = Detail::Summary);
/// The same, for the ramp and the exposure plan that ramp_in_any_case() and exposure_of() gave.
Forecast forecast_of(const take::Take& take, const ramp::Ramp& ramp, const ExposurePlan& exposure,
                     Detail detail = Detail::Summary);

/// What camera, batteries and cards of a take can do.
plan::CameraLimits limits_of(const take::Take& take);

/// As JSON: `planned`, `frames`, `lost`, `first_lost_frame`, `lost_to`, `ends_by`, `ends` (a moment, null
/// where the start is not known), `ends_after_s`, `ends_at_frame`, `film_s`, `days` (`date`, `from`, `until`,
/// `shots`, `frames`), and where there are shots `list` (`n`, `at`, `at_s`, `day`, `shutter_s`, `f_number`,
/// `iso`, `heard`, `lost_to`, `meter_stops`, `left`), under the key `shots`.
Json to_json(const take::Take& take, const Forecast& forecast);

/// How it ends, in a sentence: "412 of 500 frames come: the battery is empty at 21:14." Empty where all come.
std::string end_words(const take::Take& take, const Forecast& forecast);

}  // namespace askcount::forecast
