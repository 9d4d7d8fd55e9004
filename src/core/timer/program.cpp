// SPDX-License-Identifier: GPL-3.0-or-later
#include "timer/program.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"

namespace askcount::timer {
namespace {

constexpr Seconds kPress_s = 0.2;    // long enough for a camera to notice
constexpr Seconds kHeldPress_s = 1;  // of a timer that holds: the shortest people key in
constexpr double kDialSlack = 1.07;  // a dial's 30 s is open for 32

Seconds to_step(Seconds s, Seconds step) {
  return std::max(step, std::round(s / step) * step);
}

long long shots_of(const plan::Sums& sums) {
  return sums.frames + sums.extra_shots;
}

/// What is to be set on the camera's own dial.
std::string shutter_on_camera(const Program& p) {
  if (!p.shutter.follows) return dial_shutter_words(p.shutter.first_s);
  return say("{} to begin with; it follows the light to {}", dial_shutter_words(p.shutter.first_s),
             dial_shutter_words(p.shutter.longest_s));
}

}  // namespace

Program program_for(const plan::Sums& sums, const Timer& timer, const ProgramWish& wish) {
  Program p;
  p.timer = timer;
  const Seconds step = timer.smallest_step_s;
  p.shutter = wish.shutter;
  if (p.shutter.longest_s <= 0) p.shutter.first_s = p.shutter.longest_s = sums.shutter_s;
  // The exposures of a shot and the pauses between them, at the longest shutter.
  const Seconds open =
      sums.interval_s - sums.gap_s + (p.shutter.longest_s - sums.shutter_s) * sums.open_factor;
  const bool held = sums.exposures == 1 && p.shutter.longest_s > p.shutter.dial_s * kDialSlack;
  p.bulb = held && timer.holds;
  p.needs_holding = held && !timer.holds;
  p.count = shots_of(sums);
  p.endless = wish.endless && timer.endless;
  const long long most = p.endless || timer.max_count <= 0 ? p.count : timer.max_count;
  for (long long left = p.count; left > 0 && p.runs.size() < 1000; left -= p.runs.back())
    p.runs.push_back(std::min(left, most));
  const bool by_clock = wish.start == StartBy::Clock && timer.starts_by_clock && wish.first_shot;
  p.start = by_clock ? StartBy::Clock : wish.start == StartBy::Now ? StartBy::Now : StartBy::Delay;
  p.delay_s = p.start == StartBy::Delay && wish.delay_s > 0
                  ? std::min(to_step(wish.delay_s, step), timer.longest_s)
                  : 0;
  if (by_clock) p.start_clock = format_clock(*wish.first_shot, wish.zone);
  p.no_endless = wish.endless && !timer.endless;
  p.hold_s = p.bulb        ? std::min(to_step(p.shutter.longest_s, step), timer.longest_s)
             : timer.holds ? to_step(kHeldPress_s, step)
                           : kPress_s;
  p.open_s = p.bulb ? p.hold_s : open;
  if (timer.counts == Counts::Interval) {
    p.setting_s = to_step(sums.interval_s, step);
    // One that follows the light by itself may outgrow the interval: that is said, and no other interval
    // keyed in.
    while (!p.shutter.follows && p.setting_s <= p.open_s + kSlack_s) p.setting_s += step;
    p.setting_s = std::min(p.setting_s, timer.longest_s);
    p.interval_s = p.setting_s;
  } else {
    // It counts from the end of its own hold; one that only presses lets go long before the shutter closes.
    p.setting_s = std::min(to_step(sums.interval_s - p.hold_s, step), timer.longest_s);
    p.interval_s = p.hold_s + p.setting_s;
  }
  p.gap_s = p.interval_s - p.open_s;
  return p;
}

Findings judge(const Program& p, const plan::Sums& sums) {
  Findings list;
  const Seconds step = p.timer.smallest_step_s;
  const auto add = [&list](const char* code, Severity severity, std::string title, std::string text,
                           std::optional<Fix> fix = {}) {
    list.push_back({code, severity, std::move(title), std::move(text), std::move(fix)});
  };
  if (sums.interval_s > p.timer.longest_s + kSlack_s)
    add("interval_too_long", Severity::Stop, say("The timer cannot wait so long"),
        say("The longest it can be set to is {}. Plan with that, or press by hand.",
            format_length(p.timer.longest_s)),
        fix::SetSlot{Slot::Interval, p.interval_s});
  else if (std::abs(p.interval_s - sums.interval_s) > 1e-6)
    add("interval_not_settable", Severity::Warning, say("The timer runs at another interval"),
        say("The plan asks for {}; in steps of {} it runs at {}. The take lasts {}.",
            format_length(sums.interval_s), format_length(step), format_length(p.interval_s),
            format_length(p.field_s())),
        fix::SetSlot{Slot::Interval, p.interval_s});
  if (p.bulb && std::abs(p.hold_s - p.shutter.longest_s) > 0.02 * p.shutter.longest_s)
    add("hold_not_settable", Severity::Warning, say("The timer holds in whole steps"),
        say("It cannot hold the shutter open for {}, the nearest is {}.", format_shutter(p.shutter.longest_s),
            format_length(p.hold_s)),
        fix::SetSlot{Slot::Shutter, p.hold_s});
  if (p.needs_holding)
    add("needs_holding", Severity::Stop, say("Longer than the camera's dial"),
        say("{} is beyond the dial, which ends at {}: the camera must be on bulb and a timer must hold it "
            "open. {} only presses. Use one that holds, or a shorter shutter.",
            format_shutter(p.shutter.longest_s), format_shutter(p.shutter.dial_s), p.timer.name),
        fix::SetSlot{Slot::Shutter, p.shutter.dial_s});
  if (p.runs.size() > 1) {
    long long next = p.runs[0] + 1;
    std::string starts;
    for (size_t i = 1; i < p.runs.size() && i < 6; next += p.runs[i++])
      starts += (starts.empty() ? "" : ", ") + format_count(next);
    if (p.runs.size() > 6) starts += say(" and so on");
    add("timer_count_limit", Severity::Stop, say("The timer stops too early"),
        say("{} counts to {}, the take needs {}: {} runs. Start it again at frame {}{}.", p.timer.name,
            format_count(p.timer.max_count), format_count(p.count), p.runs.size(), starts,
            p.timer.endless ? say(", or set it to endless and stop it by hand")
                            : say(", or use a timer without that limit")),
        p.timer.endless ? std::optional<Fix>(fix::RunEndless{}) : std::nullopt);
  }
  if (p.endless)
    add("runs_endless", Severity::Warning, say("You stop it by hand"),
        say("It goes on until you stop it: at {} shots, {} after the start.", format_count(p.count),
            format_length(p.field_s())));
  if (p.bulb)
    add("camera_on_bulb", Severity::Warning, say("Camera on bulb"),
        say("This timer holds the shutter open itself: the camera must be on bulb, or its own shutter speed "
            "will count."));
  else if (!p.needs_holding && p.shutter.longest_s > 1)
    add("camera_not_on_bulb", Severity::Warning, say("Camera off bulb"),
        say("The timer presses for {}: on bulb every frame would be that long. Set {} on the camera.",
            format_length(p.hold_s), shutter_on_camera(p)));
  if (p.timer.lock_s > 0)
    add("timer_locks", p.gap_s < p.timer.lock_s ? Severity::Stop : Severity::Ok,
        say("The timer locks the camera before each shot"),
        say("Dials do nothing for the last {} of every gap{}.", format_length(p.timer.lock_s),
            p.gap_s < p.timer.lock_s ? say(", and the gap is only {}", format_length(p.gap_s)) : ""));
  if (p.timer.counts == Counts::Gap)
    add("counts_gap", Severity::Ok, say("This timer counts the gap"),
        say("It waits {} after each {}: one frame every {}.", format_length(p.setting_s),
            p.bulb ? say("exposure") : say("press"), format_length(p.interval_s)));
  if (std::none_of(list.begin(), list.end(), [](const Finding& f) {
        return f.severity == Severity::Stop || f.code.ends_with("settable");
      }))
    add("program_fits", Severity::Ok, say("The timer can be set to exactly this"),
        say("{} every {}.", counted(p.count, "{} frame", "{} frames"), format_length(p.interval_s)));
  sort_by_severity(list);
  return list;
}

std::string timer_digits(Seconds seconds, Seconds step) {
  const double unit = step < 1 ? 10 : 1;
  const auto n = static_cast<long long>(std::llround(seconds * unit));
  const auto s = static_cast<long long>(static_cast<double>(n) / unit);
  std::string text = fmt::format("{:02}:{:02}:{:02}", s / 3600, s / 60 % 60, s % 60);
  if (step < 1) text += fmt::format(".{}", n % 10);
  return text;
}

std::vector<ProgramLine> program_lines(const Program& p) {
  const plan::TimerWords& w = p.timer.words;
  const std::string what = p.bulb ? say("exposure") : say("press");
  const auto digits = [&p](Seconds s) { return timer_digits(s, p.timer.smallest_step_s); };
  std::vector<ProgramLine> lines;
  if (p.start == StartBy::Clock)
    lines.push_back({"delay", say("First shot at"), w.delay, p.start_clock,
                     say("By the timer's own clock: set that one right first.")});
  else if (p.start == StartBy::Now)
    lines.push_back({"delay", say("First shot"), w.delay, digits(0),
                     say("At once: your hand is still on it, so keep it off the tripod.")});
  else
    lines.push_back(
        {"delay", say("First delay"), w.delay, digits(p.delay_s),
         say("{}: time to put the timer down without shaking the tripod.", format_length(p.delay_s))});
  if (p.bulb)
    lines.push_back(
        {"hold", say("Hold"), w.hold, digits(p.hold_s),
         say("The timer keeps the shutter open for {}. Set the camera to bulb.", format_length(p.hold_s))});
  else if (p.needs_holding)
    lines.push_back({"hold", say("Press"), w.hold, say("cannot"),
                     say("{} is longer than the camera's dial, and this timer cannot hold it open.",
                         format_shutter(p.shutter.longest_s))});
  else
    lines.push_back({"hold", say("Press"), w.hold, p.timer.holds ? digits(p.hold_s) : say("shortest"),
                     say("{}The camera opens by its own dial: set it to {}.",
                         p.timer.holds ? say("It only presses. ") : "", shutter_on_camera(p))});
  if (p.timer.counts == Counts::Interval)
    lines.push_back(
        {"interval", say("Interval"), w.time, digits(p.setting_s),
         say("{} from the start of one shot to the start of the next. The gap left in it is {}{}.",
             format_length(p.setting_s), p.shutter.follows ? say("at least ") : "", format_length(p.gap_s))});
  else
    lines.push_back({"gap", say("Gap"), w.time, digits(p.setting_s),
                     say("{} from the end of one {} to the start of the next. That makes an interval of {}.",
                         format_length(p.setting_s), what, format_length(p.interval_s))});
  const std::string lasts =
      say("From the first opening to the last closing: {}.", format_length(p.field_s()));
  if (p.endless)
    lines.push_back({"count", say("Count"), w.count, say("endless"),
                     say("Stop it by hand after {}. {}", counted(p.count, "{} shot", "{} shots"), lasts)});
  else if (p.no_endless)
    lines.push_back(
        {"count", say("Count"), w.count, counted(p.timer.max_count, "{} shot", "{} shots"),
         say("It has no endless mode: that is the most it counts to. Stop it by hand after {}. {}",
             counted(p.count, "{} shot", "{} shots"), lasts)});
  else if (p.runs.size() > 1)
    lines.push_back({"count", say("Count"), w.count, say("{} runs", p.runs.size()),
                     say("{} each, {} in the last: {} shots. {}", format_count(p.runs.front()),
                         format_count(p.runs.back()), format_count(p.count), lasts)});
  else
    lines.push_back({"count", say("Count"), w.count, counted(p.count, "{} shot", "{} shots"), lasts});
  if (p.timer.shots_each_time > 1)
    lines.push_back({"each", say("Shots each time"), w.each, "1",
                     say("One press a turn: the camera makes a bracket's exposures by itself.")});
  lines.push_back({"sound", say("Sound"), w.sound, say("off|a sound"),
                   say("It carries far over water, and costs battery.")});
  return lines;
}

}  // namespace askcount::timer
