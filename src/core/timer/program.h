// What a timer is told, and what it then does.
#pragma once

#include <string>
#include <vector>

#include "base/finding.h"
#include "base/units.h"
#include "plan/sums.h"

namespace askcount::timer {

/// Most built-in timers count the interval (start to start), many cabled ones the gap (end to start).
enum class Counts { Interval, Gap };

/// What a timer can be told.
struct TimerModel {
  std::string name;
  Counts counts = Counts::Interval;
  Seconds smallest_step_s = 1;  ///< its times are whole multiples of this
  long long max_count = 9999;   ///< 0 where it can run endlessly
  bool holds = false;           ///< holds the shutter open itself (camera on bulb); otherwise only presses
  bool operator==(const TimerModel&) const = default;
};

/// The made-up models that ship.
const std::vector<TimerModel>& shipped_timers();

/// The shipped model of that name. Throws BadInput naming those there are.
const TimerModel& timer_named(const std::string& name);

/// The five settings of a timer for one take.
struct Program {
  TimerModel timer;
  Seconds delay_s = 10;    ///< before the first shot, so that the timer can be put down
  Seconds hold_s = 0;      ///< how long the timer presses or holds
  Seconds interval_s = 0;  ///< start to start, as it will really run
  Seconds gap_s = 0;       ///< end of the exposure to the next start, as it will really run
  Seconds setting_s = 0;   ///< what is keyed in: the interval or the time between presses
  long long count = 0;
  bool operator==(const Program&) const = default;
};

/// The program for a take's sums. Times the timer cannot be told are rounded to the nearest it can (the interval
/// never down to less than the shutter needs).
Program program_for(const plan::Sums& sums, const TimerModel& timer);

/// What differs from the plan, with what to do.
Findings judge(const Program& program, const plan::Sums& sums);

/// One setting as it is told to the timer: what it is called, what is keyed in, and why.
struct ProgramLine {
  std::string name;
  std::string value;
  std::string why;
};

/// The five settings to follow by torch, in the order hands do them.
std::vector<ProgramLine> program_lines(const Program& program, const plan::Sums& sums);

/// Seconds from pressing start to each press of the timer.
std::vector<Seconds> press_times(const Program& program);

}  // namespace askcount::timer
