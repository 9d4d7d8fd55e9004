// SPDX-License-Identifier: GPL-3.0-or-later
#include "timer/keyed.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "plan/shot_cycle.h"

namespace askcount::timer {
namespace {

void check(Seconds value, const Timer& timer, const std::string& name) {
  const double steps = value / timer.smallest_step_s;
  if (!(value >= 0)) throw bad_input(say("{} cannot be below zero.", name));
  if (value > timer.longest_s + kSlack_s)
    throw bad_input(say("{} {} is more than {} can be set to.", name, format_length(value), timer.name),
                    say("At most {}.", format_length(timer.longest_s)));
  if (std::abs(steps - std::round(steps)) > 1e-6)
    throw bad_input(say("{} {} cannot be set on {}.", name, format_length(value), timer.name),
                    say("It has steps of {}.", format_length(timer.smallest_step_s)));
}

}  // namespace

Pressed camera_for(const Program& program, Seconds writing_s, Seconds dark_s, Seconds keyed_hold_s) {
  const bool held = program.timer.holds && keyed_hold_s >= 2 && program.shutter.longest_s >= 1;
  return {program.open_s, writing_s + dark_s, program.bulb || held};
}

Outcome what_happens(const Keyed& keyed, const Timer& timer, const Pressed& camera, const plan::Sums& plan,
                     const std::string& start_clock) {
  check(keyed.delay_s, timer, say("The delay"));
  if (timer.holds) check(keyed.hold_s, timer, say("The hold"));
  check(keyed.time_s, timer, timer.counts == Counts::Interval ? say("The interval") : say("The gap"));
  if (keyed.count < 0) throw bad_input(say("The count cannot be below zero."));
  Outcome o;
  const bool counts_gap = timer.counts == Counts::Gap;
  const Seconds hold = timer.holds ? keyed.hold_s : 0.2;
  o.open_s = camera.bulb ? hold : camera.shutter_s;
  o.interval_s = counts_gap ? hold + keyed.time_s : keyed.time_s;
  const auto add = [&o](const char* code, Severity severity, std::string title, std::string text) {
    o.findings.push_back({code, severity, std::move(title), std::move(text)});
  };
  if (o.interval_s <= 0) {
    add("no_interval", Severity::Stop, say("No time between shots"),
        say("The timer would press without pause. Key in a time."));
    return o;
  }
  const long long wanted = plan.frames + plan.extra_shots;
  if (keyed.count == 0 && !timer.endless)
    add("no_count", Severity::Stop, say("No count"),
        say("{} cannot run endlessly: key in {}.", timer.name, format_count(wanted)));
  const bool over = timer.max_count > 0 && keyed.count > timer.max_count;
  if (over)
    add("timer_count_limit", Severity::Stop, say("More than it counts to"),
        say("{} stops at {}.", timer.name, format_count(timer.max_count)));
  o.pressed = keyed.count == 0 ? static_cast<long long>(plan.field_s / o.interval_s) + 1
              : over           ? timer.max_count
                               : keyed.count;
  // Of this many presses one is heard: the camera is busy until the next press at or after open + busy.
  const long long every = plan::heard_every(o.open_s + camera.busy_s, o.interval_s);
  o.shots = (o.pressed + every - 1) / every;
  o.missed = o.pressed - o.shots;
  const Seconds real = o.interval_s * static_cast<double>(every);
  o.gap_s = o.interval_s - o.open_s;
  o.field_s = static_cast<double>(std::max(0LL, o.shots - 1)) * real + o.open_s;
  o.in_time = std::min(o.shots, static_cast<long long>((plan.field_s - o.open_s + kSlack_s) / real) + 1);

  if (camera.bulb && !timer.holds)
    add("press_on_bulb", Severity::Stop, say("The camera is on bulb"),
        say("This timer only presses: every frame would be as short as the press."));
  if (o.missed > 0)
    add("shots_missed", Severity::Stop, say("Shots would be missed"),
        say("{} open and {} busy do not fit into {}: {}, {} of {} are lost.", format_length(o.open_s),
            format_length(camera.busy_s), format_length(o.interval_s), plan::heard_words(every),
            format_count(o.missed), format_count(o.pressed)));
  const bool same = std::abs(real - plan.interval_s) <= std::max(0.01 * plan.interval_s, kSlack_s);
  if (!same && counts_gap &&
      std::abs(keyed.time_s - plan.interval_s) < 0.5 * timer.smallest_step_s + kSlack_s)
    add("gap_for_interval", Severity::Stop, say("That was the interval, it counts the gap"),
        say("You set the gap {} with {} exposures: one frame every {}, so {} in {}, not {}.",
            format_length(keyed.time_s), format_length(o.open_s), format_length(real),
            counted(o.in_time, "{} frame", "{} frames"), format_length(plan.field_s), format_count(wanted)));
  else if (!same && !counts_gap &&
           std::abs(keyed.time_s - plan.gap_s) < 0.5 * timer.smallest_step_s + kSlack_s)
    add("interval_for_gap", Severity::Stop, say("That was the gap, it counts the interval"),
        say("You set the interval {}, which is the gap of the plan. One shot every {} is wanted.",
            format_length(keyed.time_s), format_length(plan.interval_s)));
  else if (!same)
    add("interval_differs", Severity::Warning, say("Not the interval of the plan"),
        say("One frame every {}, planned is {}: {} in {}, not {}.", format_length(real),
            format_length(plan.interval_s), counted(o.in_time, "{} frame", "{} frames"),
            format_length(plan.field_s), format_count(wanted)));
  if (camera.bulb && timer.holds && std::abs(o.open_s - plan.shutter_s) > 0.1 * plan.shutter_s)
    add("hold_differs", Severity::Warning, say("Not the shutter of the plan"),
        say("Open for {}, planned is {}: {} stops {}.", format_length(o.open_s),
            format_shutter(plan.shutter_s),
            format_number(std::abs(std::log2(std::max(o.open_s, 0.01) / plan.shutter_s)), 1),
            o.open_s > plan.shutter_s ? say("brighter") : say("darker")));
  if (keyed.count > 0 && !over && o.shots < wanted)
    add("too_few", Severity::Stop, say("Too few shots"),
        say("{} of {}: the film would run {} instead of {}.", format_count(o.shots), format_count(wanted),
            format_length(static_cast<double>(o.shots) / plan.fps.value(), 1),
            format_length(plan.clip_s, 1)));
  if (!camera.bulb && timer.holds && hold > 2 && std::abs(hold - o.open_s) > 0.1 * o.open_s)
    add("hold_does_nothing", Severity::Warning, say("The hold is not the shutter"),
        say("Off bulb the camera's own {} counts, not the {} the timer holds. Key in the shortest hold, a "
            "second.",
            dial_shutter_words(o.open_s), format_length(hold)));
  const long long harmless = std::max(3LL, wanted / 50);  // a few more at the end cost nothing
  if (keyed.count > 0 && !over && o.shots > wanted + harmless) {
    const bool classic = plan.exposures > 1 && keyed.count == wanted * plan.exposures;
    add("too_many", Severity::Warning, say("Too many shots"),
        say("{} instead of {}: it goes on for {} more.{}", format_count(o.shots), format_count(wanted),
            format_length(static_cast<double>(o.shots - wanted) * real),
            classic ? say(" Each press makes all {} exposures of a shot: key in the shots, {}.",
                          plan.exposures, format_count(wanted))
                    : ""));
  }
  if (!start_clock.empty()) {
    if (timer_digits(keyed.delay_s, 60).substr(0, 5) != start_clock)
      add("start_differs", Severity::Warning, say("Not the start of the plan"),
          say("It would begin at {}, planned is {}.", timer_digits(keyed.delay_s, 60).substr(0, 5),
              start_clock));
  } else if (keyed.delay_s < 5)
    add("no_delay", Severity::Warning, say("No time to let go"),
        say("With a first delay of 5 to 10 s the tripod comes to rest before the first shot."));
  if (keyed.sound)
    add("sound_on", Severity::Warning, say("The sound is on"), say("It carries far, and costs battery."));
  if (o.findings.empty())
    add("as_planned", Severity::Ok, say("Just as planned"),
        say("{} every {}, {} from first opening to last closing.", counted(o.shots, "{} shot", "{} shots"),
            format_length(o.interval_s), format_length(o.field_s)));
  sort_by_severity(o.findings);
  return o;
}

}  // namespace askcount::timer
