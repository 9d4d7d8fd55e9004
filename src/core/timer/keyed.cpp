// SPDX-License-Identifier: GPL-3.0-or-later
#include "timer/keyed.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "plan/camera_state.h"
#include "plan/settable.h"
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

/// The time between shots; some timers know a few only.
void check_time(Seconds value, const Timer& timer, const std::string& name) {
  check(value, timer, name);
  if (timer.intervals.empty()) return;
  const Seconds nearest = plan::nearest_time(timer, value);
  if (std::abs(nearest - value) > kSlack_s)
    throw bad_input(say("{} {} cannot be set on {}, {}.", name, format_length(value), timer.name,
                        plan::times_words(timer)),
                    say("The nearest is {}.", format_length(nearest)));
}

/// One pressing worked out, and what there is to say about it.
class Trying {
 public:
  Trying(const Keyed& keyed, const Timer& timer, const Pressed& camera, const plan::Sums& plan)
      : keyed_(keyed),
        timer_(timer),
        camera_(camera),
        plan_(plan),
        wanted_(plan.frames + plan.extra_shots),
        over_(timer.max_count > 0 && keyed.count > timer.max_count),
        counts_gap_(timer.counts == Counts::Gap),
        hold_(timer.holds ? keyed.hold_s : 0.2) {}

  Outcome outcome(const std::string& start_clock) {
    o_.open_s = camera_.bulb ? hold_ : camera_.shutter_s;
    o_.interval_s = counts_gap_ ? hold_ + keyed_.time_s : keyed_.time_s;
    if (o_.interval_s <= 0) {
      add("no_interval", Severity::Stop, say("No time between shots"),
          say("The timer would press without pause. Key in a time."));
      return o_;
    }
    judge_count();
    count();
    spread();
    judge_missed();
    judge_interval();
    judge_hold();
    judge_shots();
    judge_each();
    judge_start(start_clock);
    if (o_.findings.empty())
      add("as_planned", Severity::Ok, say("Just as planned"),
          say("{} every {}, {} from first opening to last closing.", counted(o_.shots, "{} shot", "{} shots"),
              format_length(o_.interval_s), format_length(o_.field_s)));
    sort_by_severity(o_.findings);
    return o_;
  }

 private:
  void add(const char* code, Severity severity, std::string title, std::string text) {
    o_.findings.push_back({code, severity, std::move(title), std::move(text)});
  }
  void judge_count();
  void count();
  void play();
  void spread();
  void judge_missed();
  void judge_interval();
  void judge_hold();
  void judge_shots();
  void judge_each();
  void judge_start(const std::string& start_clock);

  const Keyed& keyed_;
  const Timer& timer_;
  const Pressed& camera_;
  const plan::Sums& plan_;
  const long long wanted_;
  const bool over_, counts_gap_;
  const Seconds hold_;
  long long every_ = 1;  // how many presses it takes for one to be heard
  Seconds real_ = 0;     // between most shots that are heard
  Outcome o_;
};

void Trying::judge_count() {
  if (keyed_.count == 0 && !timer_.endless)
    add("no_count", Severity::Stop, say("No count"),
        say("{} cannot run endlessly: key in {}.", timer_.name, format_count(wanted_)));
  if (over_)
    add("timer_count_limit", Severity::Stop, say("More than it counts to"),
        say("{} stops at {}.", timer_.name, format_count(timer_.max_count)));
}

void Trying::count() {
  o_.pressed = keyed_.count == 0 ? static_cast<long long>((plan_.field_s + kSlack_s) / o_.interval_s) + 1
               : over_           ? timer_.max_count
                                 : keyed_.count;
  // A shutter that follows the light is played press by press; of one that stands one press in `every_` is
  // heard: the camera is busy until the next press at or after open + busy.
  const bool follows = !camera_.bulb && !camera_.opens_s.empty();
  if (follows) o_.open_s = *std::max_element(camera_.opens_s.begin(), camera_.opens_s.end());
  o_.gap_s = o_.interval_s - o_.open_s;
  if (follows) return play();
  every_ = plan::heard_every(o_.open_s + camera_.busy_s, o_.interval_s);
  o_.shots = (o_.pressed + every_ - 1) / every_;
  o_.missed = o_.pressed - o_.shots;
  if (o_.missed > 0) o_.first_missed = 1;
  real_ = o_.interval_s * static_cast<double>(every_);
  o_.field_s = static_cast<double>(std::max(0LL, o_.shots - 1)) * real_ + o_.open_s;
  o_.in_time = std::min(o_.shots, static_cast<long long>((plan_.field_s - o_.open_s + kSlack_s) / real_) + 1);
}

void Trying::play() {
  plan::CameraLimits limits;
  limits.writing_s = camera_.busy_s;
  plan::CameraState camera(limits);
  real_ = o_.interval_s;
  for (long long n = 0; n < o_.pressed; ++n) {
    const Seconds at = static_cast<double>(n) * o_.interval_s,
                  open = camera_.opens_s[std::min(static_cast<size_t>(n), camera_.opens_s.size() - 1)];
    if (camera.press(at, open, 0, 0) != plan::Heard::Yes) {
      if (o_.missed++ == 0) o_.first_missed = n;
      continue;
    }
    ++o_.shots;
    o_.field_s = at + open;
    o_.in_time += at + open <= plan_.field_s + kSlack_s;
  }
}

/// A shot whose exposures want more presses than a turn makes takes several turns.
void Trying::spread() {
  const int each = std::max(1, keyed_.each);
  if (each >= camera_.presses || camera_.presses < 2) return;
  const long long turns = (camera_.presses + each - 1) / each;
  o_.shots /= turns;
  o_.in_time /= turns;
  real_ *= static_cast<double>(turns);
}

void Trying::judge_missed() {
  if (camera_.bulb && !timer_.holds)
    add("press_on_bulb", Severity::Stop, say("The camera is on bulb"),
        say("This timer only presses: every frame would be as short as the press."));
  if (o_.missed > 0 && !camera_.opens_s.empty() && !camera_.bulb)
    add("shots_missed", Severity::Stop, say("Shots would be missed"),
        say("The shutter grows with the dark, to {}: from shot {} on the camera is still busy at some "
            "presses, "
            "and {} of {} are lost.",
            format_length(o_.open_s), format_count(*o_.first_missed + 1), format_count(o_.missed),
            format_count(o_.pressed)));
  else if (o_.missed > 0)
    add("shots_missed", Severity::Stop, say("Shots would be missed"),
        say("{} open and {} busy do not fit into {}: {}, {} of {} are lost.", format_length(o_.open_s),
            format_length(camera_.busy_s), format_length(o_.interval_s), plan::heard_words(every_),
            format_count(o_.missed), format_count(o_.pressed)));
}

void Trying::judge_interval() {
  const bool same = std::abs(real_ - plan_.interval_s) <= std::max(0.01 * plan_.interval_s, kSlack_s);
  if (!same && counts_gap_ &&
      std::abs(keyed_.time_s - plan_.interval_s) < 0.5 * timer_.smallest_step_s + kSlack_s)
    add("gap_for_interval", Severity::Stop, say("That was the interval, it counts the gap"),
        say("You set the gap {} with {} exposures: one frame every {}, so {} in {}, not {}.",
            format_length(keyed_.time_s), format_length(o_.open_s), format_length(real_),
            counted(o_.in_time, "{} frame", "{} frames"), format_length(plan_.field_s),
            format_count(wanted_)));
  else if (!same && !counts_gap_ &&
           std::abs(keyed_.time_s - plan_.gap_s) < 0.5 * timer_.smallest_step_s + kSlack_s)
    add("interval_for_gap", Severity::Stop, say("That was the gap, it counts the interval"),
        say("You set the interval {}, which is the gap of the plan. One shot every {} is wanted.",
            format_length(keyed_.time_s), format_length(plan_.interval_s)));
  else if (!same)
    add("interval_differs", Severity::Warning, say("Not the interval of the plan"),
        say("One frame every {}, planned is {}: {} in {}, not {}.", format_length(real_),
            format_length(plan_.interval_s), counted(o_.in_time, "{} frame", "{} frames"),
            format_length(plan_.field_s), format_count(wanted_)));
}

void Trying::judge_hold() {
  if (camera_.bulb && timer_.holds && o_.open_s < plan_.shutter_s / 2)
    add("press_for_hold", Severity::Stop, say("That is a press, not a hold"),
        say("Put the camera on bulb and key in a hold of {}: held for {} every frame is {} stops too dark.",
            format_shutter(plan_.shutter_s), format_length(std::max(0.01, o_.open_s)),
            format_number(std::log2(plan_.shutter_s / std::max(o_.open_s, 0.01)), 1)));
  else if (camera_.bulb && timer_.holds && std::abs(o_.open_s - plan_.shutter_s) > 0.1 * plan_.shutter_s)
    add("hold_differs", Severity::Warning, say("Not the shutter of the plan"),
        say("Open for {}, planned is {}: {} stops {}.", format_length(o_.open_s),
            format_shutter(plan_.shutter_s),
            format_number(std::abs(std::log2(std::max(o_.open_s, 0.01) / plan_.shutter_s)), 1),
            o_.open_s > plan_.shutter_s ? say("brighter") : say("darker")));
  if (!camera_.bulb && timer_.holds && hold_ > 2 && std::abs(hold_ - o_.open_s) > 0.1 * o_.open_s)
    add("hold_does_nothing", Severity::Warning, say("The hold is not the shutter"),
        say("Off bulb the camera's own {} counts, not the {} the timer holds. Key in the shortest hold, a "
            "second.",
            dial_shutter_words(o_.open_s), format_length(hold_)));
}

void Trying::judge_shots() {
  if (keyed_.count > 0 && !over_ && o_.shots < wanted_)
    add("too_few", Severity::Stop, say("Too few shots"),
        say("{} of {}: the film would run {} instead of {}.", format_count(o_.shots), format_count(wanted_),
            format_length(static_cast<double>(o_.shots) / plan_.fps.value(), 1),
            format_length(plan_.clip_s, 1)));
  const long long harmless = std::max(3LL, wanted_ / 50);  // a few more at the end cost nothing
  if (keyed_.count > 0 && !over_ && o_.shots > wanted_ + harmless) {
    const bool classic = plan_.exposures > 1 && keyed_.count == wanted_ * plan_.exposures;
    add("too_many", Severity::Warning, say("Too many shots"),
        say("{} instead of {}: it goes on for {} more.{}", format_count(o_.shots), format_count(wanted_),
            format_length(static_cast<double>(o_.shots - wanted_) * real_),
            classic ? say(" Each press makes all {} exposures of a shot: key in the shots, {}.",
                          plan_.exposures, format_count(wanted_))
                    : ""));
  }
}

void Trying::judge_each() {
  const int each = std::max(1, keyed_.each);
  if (each < camera_.presses)
    add("bracket_presses", Severity::Stop, say("Too few presses for a bracket"),
        say("This camera wants a press for each of its {} exposures; {} a turn spread a shot over {}.",
            camera_.presses, counted(each, "{} release", "{} releases"),
            counted((camera_.presses + each - 1) / each, "{} turn", "{} turns")));
  else if (each > camera_.presses)
    add("too_many_presses", Severity::Stop, say("Too many presses a turn"),
        camera_.presses > 1
            ? say("A shot wants {}, {} were keyed in: the brackets come apart.", camera_.presses, each)
            : say("One press makes a whole shot: {} make several at every turn, or are not heard. Key in 1.",
                  each));
}

void Trying::judge_start(const std::string& start_clock) {
  if (!start_clock.empty()) {
    if (timer_digits(keyed_.delay_s, 60).substr(0, 5) != start_clock)
      add("start_differs", Severity::Warning, say("Not the start of the plan"),
          say("It would begin at {}, planned is {}.", timer_digits(keyed_.delay_s, 60).substr(0, 5),
              start_clock));
  } else if (keyed_.delay_s < 5)
    add("no_delay", Severity::Warning, say("No time to let go"),
        say("With a first delay of 5 to 10 s the tripod comes to rest before the first shot."));
  if (keyed_.sound)
    add("sound_on", Severity::Warning, say("The sound is on"), say("It carries far, and costs battery."));
}

}  // namespace

Pressed camera_for(const Program& program, Seconds writing_s, Seconds dark_s, Seconds keyed_hold_s) {
  const bool held = program.timer.holds && keyed_hold_s >= 2 && program.shutter.longest_s >= 1;
  Pressed camera{program.open_s, writing_s + dark_s, program.bulb || held};
  camera.presses = program.presses;
  return camera;
}

Outcome what_happens(const Keyed& keyed, const Timer& timer, const Pressed& camera, const plan::Sums& plan,
                     const std::string& start_clock) {
  check(keyed.delay_s, timer, say("The delay"));
  if (timer.holds) check(keyed.hold_s, timer, say("The hold"));
  check_time(keyed.time_s, timer, timer.counts == Counts::Interval ? say("The interval") : say("The gap"));
  if (keyed.each < 0 || keyed.each > timer.shots_each_time)
    throw bad_input(say("{} makes {} at every turn, at most.", timer.name,
                        counted(timer.shots_each_time, "{} release", "{} releases")));
  if (keyed.count < 0) throw bad_input(say("The count cannot be below zero."));
  return Trying(keyed, timer, camera, plan).outcome(start_clock);
}

}  // namespace askcount::timer
