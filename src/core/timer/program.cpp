// SPDX-License-Identifier: GPL-3.0-or-later
#include "timer/program.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "plan/settable.h"

namespace askcount::timer {
namespace {

constexpr Seconds kPress_s = 0.2;    // long enough for a camera to notice
constexpr Seconds kHand_s = 0.5;     // less is no time to turn a dial
constexpr Seconds kHeldPress_s = 1;  // of a timer that holds: the shortest people key in
constexpr size_t kMostRuns = 40000;

Seconds to_step(Seconds s, Seconds step) {
  return std::max(step, std::round(s / step) * step);
}

/// How long a timer presses, or where `held_s` is not 0 holds the shutter open.
Seconds press_of(const Timer& timer, Seconds held_s) {
  if (held_s > 0) return std::min(to_step(held_s, timer.smallest_step_s), timer.longest_s);
  return timer.holds ? to_step(kHeldPress_s, timer.smallest_step_s) : kPress_s;
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

Seconds interval_on(const Timer& timer, const plan::Sums& sums, Seconds dial_s) {
  const Seconds open = sums.interval_s - sums.gap_s, longest = plan::longest_time(timer);
  const bool held = plan::is_held(timer, sums.exposures, sums.shutter_s, dial_s);
  const Seconds hold = timer.counts == Counts::Interval ? 0 : press_of(timer, held ? sums.shutter_s : 0);
  Seconds setting = plan::nearest_time(timer, sums.interval_s - hold);
  if (sums.gap_s > 0)
    while (hold + setting <= open + kSlack_s && setting < longest) setting = plan::next_time(timer, setting);
  return hold + std::min(setting, longest);
}

Program program_for(const plan::Sums& sums, const Timer& timer, const ProgramWish& wish) {
  Program p;
  p.timer = timer;
  const Seconds step = timer.smallest_step_s;
  p.shutter = wish.shutter;
  if (p.shutter.longest_s <= 0) p.shutter.first_s = p.shutter.longest_s = sums.shutter_s;
  // The exposures of a shot and the pauses between them, at the longest shutter.
  const Seconds open =
      sums.interval_s - sums.gap_s + (p.shutter.longest_s - sums.shutter_s) * sums.open_factor;
  p.bulb = !p.shutter.by_camera &&
           (!p.shutter.follows || plan::beyond_dial(p.shutter.longest_s, p.shutter.dial_s)) &&
           plan::is_held(timer, sums.exposures, p.shutter.longest_s, p.shutter.dial_s);
  p.needs_holding = !p.bulb && !p.shutter.by_camera && sums.exposures == 1 &&
                    plan::beyond_dial(p.shutter.longest_s, p.shutter.dial_s);
  p.count = shots_of(sums);
  p.endless = wish.endless && timer.endless;
  const long long most = p.endless || timer.max_count <= 0 ? p.count : timer.max_count;
  const auto run = [&p, most](long long shots) {
    for (long long left = shots; left > 0 && p.runs.size() < kMostRuns; left -= p.runs.back())
      p.runs.push_back(std::min(left, most));
  };
  if (wish.schedule.pauses())
    for (const plan::Schedule::Part& day : wish.schedule.parts()) {
      p.days.push_back(day.shots);
      if (day.date) p.clocks.push_back(format_clock(wish.schedule.at(day.first), wish.zone));
      run(day.shots);
    }
  else
    run(p.count);
  const bool by_clock = wish.start == StartBy::Clock && timer.starts_by_clock && wish.first_shot;
  p.start = by_clock ? StartBy::Clock : wish.start == StartBy::Now ? StartBy::Now : StartBy::Delay;
  p.delay_s = p.start == StartBy::Delay && wish.delay_s > 0
                  ? std::min(to_step(wish.delay_s, step), timer.longest_s)
                  : 0;
  if (by_clock) p.start_clock = format_clock(*wish.first_shot, wish.zone);
  p.no_endless = wish.endless && !timer.endless;
  p.hold_s = press_of(timer, p.bulb ? p.shutter.longest_s : 0);
  p.open_s = p.bulb ? p.hold_s : open;
  p.interval_s = interval_on(timer, sums, p.shutter.dial_s);
  // One that counts the gap counts from the end of its own hold; one that only presses lets go long before
  // the shutter closes.
  p.setting_s = timer.counts == Counts::Interval ? p.interval_s : p.interval_s - p.hold_s;
  p.gap_s = p.interval_s - p.open_s;
  p.presses = std::max(1, wish.presses);
  p.each = std::min(p.presses, std::max(1, timer.shots_each_time));
  if (timer.movie) {
    plan::Sums as_run = sums;
    as_run.interval_s = p.interval_s;
    p.movie = plan::movie_menu(as_run, wish.body);
  }
  p.whole_s = wish.schedule.pauses() ? wish.schedule.field_s(p.open_s)
                                     : static_cast<double>(p.count - 1) * p.interval_s + p.open_s;
  return p;
}

long long Program::keyed_count() const {
  return days.empty() ? count : *std::max_element(days.begin(), days.end());
}

Findings judge(const Program& p, const plan::Sums& sums) {
  Findings list;
  const auto add = [&list](const char* code, Severity severity, std::string title, std::string text,
                           std::optional<Fix> fix = {}) {
    list.push_back({code, severity, std::move(title), std::move(text), std::move(fix)});
  };
  const Seconds longest = plan::longest_time(p.timer);
  if (sums.interval_s > longest + kSlack_s)
    add("interval_too_long", Severity::Stop, say("The timer cannot wait so long"),
        say("The longest it can be set to is {}. Plan with that, or press by hand.", format_length(longest)),
        fix::SetSlot{Slot::Interval, p.interval_s});
  else if (std::abs(p.interval_s - sums.interval_s) > 1e-6)
    add("interval_not_settable", Severity::Warning, say("The timer runs at another interval"),
        say("The plan asks for {}; the timer, {}, runs at {}. The take lasts {}.",
            format_length(sums.interval_s), plan::times_words(p.timer), format_length(p.interval_s),
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
  const long long in_one = p.keyed_count();
  if (p.timer.max_count > 0 && !p.endless && in_one > p.timer.max_count) {
    long long next = p.runs[0] + 1;
    std::string starts;
    for (size_t i = 1; i < p.runs.size() && i < 6; next += p.runs[i++])
      starts += (starts.empty() ? "" : ", ") + format_count(next);
    if (p.runs.size() > 6) starts += say(" and so on");
    add("timer_count_limit", Severity::Stop, say("The timer stops too early"),
        say("{} counts to {}, the take needs {}: {} runs. Start it again at frame {}{}.", p.timer.name,
            format_count(p.timer.max_count), format_count(in_one), p.runs.size(), starts,
            p.timer.endless ? say(", or set it to endless and stop it by hand")
                            : say(", or use a timer without that limit")),
        p.timer.endless ? std::optional<Fix>(fix::RunEndless{}) : std::nullopt);
  }
  if (!p.days.empty() && p.days.size() > 1)
    add("start_each_day", Severity::Warning, say("Start it again each day"),
        say("{} on each of {}{}: the timer does not know the night. Set it to {} and start it every "
            "morning{}.",
            counted(in_one, "{} shot", "{} shots"),
            counted(static_cast<long long>(p.days.size()), "{} day", "{} days"),
            p.days.back() < in_one ? say(", {} on the last", format_count(p.days.back())) : "",
            counted(in_one, "{} shot", "{} shots"), p.clocks.size() > 1 ? say(" at {}", p.clocks[1]) : ""));
  if (p.each < p.presses)
    add("bracket_presses", Severity::Stop, say("A press for each exposure"),
        say("This camera wants {} presses for a shot, and {} makes {} a turn. Use a timer that makes as "
            "many, "
            "or one exposure a shot.",
            p.presses, p.timer.name, p.each));
  if (p.movie && std::abs(p.movie->fps - sums.fps.value()) > 0.01)
    add("movie_rate", Severity::Warning, say("The movie has a rate of its own"),
        say("It plays at {} fps and is {} long, not {}: say that rate in the sentence, or cut it to yours "
            "afterwards.",
            format_number(p.movie->fps, 2), format_length(p.movie->movie_s, 1),
            format_length(sums.clip_s, 1)),
        fix::SetSlot{Slot::Fps, p.movie->fps});
  if (p.endless)
    add("runs_endless", Severity::Warning, say("You stop it by hand"),
        say("It goes on until you stop it: at {} shots, {} after the start.", format_count(p.count),
            format_length(p.field_s())));
  if (p.bulb)
    add("camera_on_bulb", Severity::Warning, say("Camera on bulb"),
        say("This timer holds the shutter open itself: the camera must be on bulb, or its own shutter speed "
            "will count."));
  else if (p.shutter.by_camera)
    add("camera_sets_shutter", Severity::Ok, say("The camera sets its own shutter"),
        say("From {} to {}: set aperture and ISO, and leave the shutter to it.",
            dial_shutter_words(p.shutter.shortest_s), dial_shutter_words(p.shutter.longest_s)));
  else if (!p.needs_holding && p.shutter.longest_s > 1)
    add("camera_not_on_bulb", Severity::Warning, say("Camera off bulb"),
        say("The timer presses for {}: on bulb every frame would be that long. Set {} on the camera.",
            format_length(p.hold_s), shutter_on_camera(p)));
  if (p.timer.lock_s > 0) {
    const Seconds free = p.gap_s - p.timer.lock_s;  // for a hand at the dials
    const bool hand = p.shutter.turning_s > 0;
    const std::string locked =
        say("Dials do nothing for the last {} of every gap", format_length(p.timer.lock_s));
    if (free < 0 || (hand && free < kHand_s))
      add("timer_locks", Severity::Stop, say("The timer locks the camera before each shot"),
          locked + say(", and the gap is only {}: no time is left to turn them.",
                       format_length(std::max(0.01, p.gap_s))));
    else if (hand && free < p.shutter.turning_s)
      add("timer_locks", Severity::Warning, say("The timer locks the camera before each shot"),
          locked + say(": {} are left to turn them, not the {} you keep for it.", format_length(free, 1),
                       format_length(p.shutter.turning_s)));
    else
      add("timer_locks", Severity::Ok, say("The timer locks the camera before each shot"), locked + ".");
  }
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

namespace {

/// What the camera's own movie mode asks for.
std::vector<ProgramLine> movie_lines(const Program& p) {
  const plan::TimerWords& w = p.timer.words;
  const plan::MovieMenu& m = *p.movie;
  std::vector<ProgramLine> lines;
  lines.push_back(
      {"interval", say("Interval"), w.time, timer_digits(p.setting_s, p.timer.smallest_step_s),
       say("{} from the start of one picture to the start of the next.", format_length(p.setting_s))});
  const std::string makes = say("It makes {}, and its menu shows a movie of {}.",
                                counted(m.shots, "{} picture", "{} pictures"), format_length(m.shown_s));
  if (m.by_time)
    lines.push_back({"shooting_time", say("Shooting time"), w.count, format_length(m.shooting_s),
                     say("In whole minutes. {}", makes)});
  else
    lines.push_back({"count", say("Count"), w.count, counted(m.shots, "{} picture", "{} pictures"), makes});
  lines.push_back({"rate", say("Movie"), say("fps"), format_number(m.fps, 2),
                   say("It then plays {}. Only the movie is kept: no frames, no raw files.",
                       format_length(m.movie_s, 2))});
  lines.push_back({"hold", say("Shutter"), w.hold, dial_shutter_words(p.shutter.first_s),
                   say("On the camera's own dial, exposure on manual.")});
  return lines;
}

}  // namespace

std::vector<ProgramLine> program_lines(const Program& p) {
  if (p.movie) return movie_lines(p);
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
  else if (p.shutter.by_camera)
    lines.push_back({"hold", say("Press"), w.hold, p.timer.holds ? digits(p.hold_s) : say("shortest"),
                     say("It only presses. The camera sets its shutter by itself, from {} to {}.",
                         dial_shutter_words(p.shutter.shortest_s), dial_shutter_words(p.shutter.longest_s))});
  else
    lines.push_back({"hold", say("Press"), w.hold, p.timer.holds ? digits(p.hold_s) : say("shortest"),
                     say("{}The camera opens by its own dial: set it to {}.",
                         p.timer.holds ? say("It only presses. ") : "", shutter_on_camera(p))});
  if (p.timer.counts == Counts::Interval)
    lines.push_back(
        {"interval", say("Interval"), w.time, digits(p.setting_s),
         p.gap_s > 0
             ? say("{} from the start of one shot to the start of the next. The gap left in it is {}{}.",
                   format_length(p.setting_s), p.shutter.follows ? say("at least ") : "",
                   format_length(p.gap_s))
             : say("{} from the start of one shot to the start of the next. At {} no gap is left in it.",
                   format_length(p.setting_s), dial_shutter_words(p.shutter.longest_s))});
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
  else if (p.days.size() > 1)
    lines.push_back(
        {"count", say("Count"), w.count, counted(p.keyed_count(), "{} shot", "{} shots"),
         say("For each of {}{}{}: {} shots in all. From the first opening to the last closing of a day: {}.",
             counted(static_cast<long long>(p.days.size()), "{} day", "{} days"),
             p.clocks.size() > 1 ? say(", from {}", p.clocks[1]) : "",
             p.days.back() < p.keyed_count() ? say(", {} on the last", format_count(p.days.back())) : "",
             format_count(p.count), format_length(p.day_s()))});
  else if (p.runs.size() > 1)
    lines.push_back({"count", say("Count"), w.count, say("{} runs", p.runs.size()),
                     say("{} each, {} in the last: {} shots. {}", format_count(p.runs.front()),
                         format_count(p.runs.back()), format_count(p.count), lasts)});
  else
    lines.push_back({"count", say("Count"), w.count, counted(p.count, "{} shot", "{} shots"), lasts});
  if (p.timer.shots_each_time > 1)
    lines.push_back({"each", say("Shots each time"), w.each, std::to_string(p.each),
                     p.presses > 1
                         ? say("This camera wants a press for each of a bracket's {} exposures.", p.presses)
                         : say("One press a turn: the camera makes a bracket's exposures by itself.")});
  lines.push_back({"sound", say("Sound"), w.sound, say("off|a sound"),
                   say("It carries far over water, and costs battery.")});
  return lines;
}

}  // namespace askcount::timer
