// SPDX-License-Identifier: GPL-3.0-or-later
// What a timer is told, and what it then does.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "base/instant.h"
#include "base/units.h"
#include "plan/kit.h"
#include "plan/movie.h"
#include "plan/schedule.h"
#include "plan/sums.h"

namespace askcount::timer {

using plan::Counts;
using plan::Timer;

/// What the camera's own shutter does over a take: it stands, or follows the light from one end to the other.
struct CameraShutter {
  Seconds first_s = 0, longest_s = 0;  ///< both 0 for the shutter of the sums
  bool follows = false;                ///< the light: it is turned on the way
  Seconds dial_s = 30;                 ///< the longest that the dial has; longer ones are held on bulb
  Seconds shortest_s = 0;
  bool by_camera = false;  ///< it follows by itself: nobody sets a shutter
  Seconds turning_s = 0;   ///< what a hand at the dials wants of every gap; 0 where none turns
  bool operator==(const CameraShutter&) const = default;
};

/// Lengths closer than this are the same.
inline constexpr Seconds kSlack_s = 1e-6;

/// How the first shot comes. A timer that knows no clock is told a delay instead.
enum class StartBy { Clock, Delay, Now };

/// What the person wants of a program besides the take's sums.
struct ProgramWish {
  CameraShutter shutter;
  StartBy start = StartBy::Clock;
  Seconds delay_s = 10;               ///< before the first shot, so that the timer can be put down: 5 to 10 s
  bool endless = false;               ///< go on until stopped by hand, where the timer can
  std::optional<Instant> first_shot;  ///< start by the clock at this moment, where the timer can
  std::string zone = "UTC";
  plan::Schedule schedule;  ///< of a take by hours of work: each day is a run of its own
  int presses = 1;          ///< that a shot wants: more for a bracket whose exposures want one each
  plan::Body body = {};     ///< for a timer that is its movie mode
};

/// The five settings of a timer for one take.
struct Program {
  Timer timer;
  StartBy start = StartBy::Delay;
  Seconds delay_s = 10;        ///< before the first shot; 0 where it starts by the clock or at once
  std::string start_clock;     ///< "17:50" where it starts by the clock instead; otherwise empty
  CameraShutter shutter;       ///< what the camera itself does
  bool bulb = false;           ///< the camera stands on bulb and the timer holds the shutter open
  bool needs_holding = false;  ///< it would have to be held, and this timer only presses
  Seconds hold_s = 0;          ///< how long the timer presses or holds
  Seconds open_s = 0;          ///< how long a shot is open then, at most
  Seconds interval_s = 0;      ///< start to start, as it will really run
  Seconds gap_s = 0;           ///< end of the exposure to the next start, as it will really run
  Seconds setting_s = 0;       ///< what is keyed in: the interval or the time between presses
  long long count = 0;         ///< shots in all
  bool endless = false;        ///< the count is not keyed in
  bool no_endless = false;  ///< endless was wished of a timer that is not: it is told the most it counts to
  std::vector<long long>
      runs;  ///< shots of each run, where days or the timer's limit ask for several; otherwise one
  std::vector<long long> days;      ///< shots of each day, where the take is shot by hours of work
  std::vector<std::string> clocks;  ///< when each of those days' first shot is: "9:00"; where known
  Seconds whole_s = 0;              ///< first opening to last closing, nights between days included
  int presses = 1;                  ///< that a shot wants
  int each = 1;                     ///< releases at every turn that are keyed in: those, or the most it can
  std::optional<plan::MovieMenu> movie = {};  ///< where it is the camera's own movie mode
  bool operator==(const Program&) const = default;

  /// What is keyed in as its count: all shots, or the most of one day.
  long long keyed_count() const;
  /// From the first opening to the last closing of one day: (its shots − 1) × interval + open.
  Seconds day_s() const { return static_cast<double>(keyed_count() - 1) * interval_s + open_s; }
  /// From the first opening to the last closing: (count − 1) × interval + open, and nights between days.
  Seconds field_s() const { return whole_s; }
};

/// The interval that a timer really runs at for a take's sums: the nearest it can be told, and never one that
/// is shorter than the shot where the plan's is not.
Seconds interval_on(const Timer& timer, const plan::Sums& sums, Seconds dial_s);

/// The program for a take's sums. Times the timer cannot be told are rounded to the nearest it can (the
/// interval never down to less than the shot needs). A timer that holds is used as most people use it: it
/// presses for a second and the camera's own shutter counts, except where the shutter is longer than the dial
/// has.
Program program_for(const plan::Sums& sums, const Timer& timer, const ProgramWish& wish = {});

/// What differs from the plan, or cannot be told to this timer, with the nearest that can.
Findings judge(const Program& program, const plan::Sums& sums);

/// One setting as it is told to the timer.
struct ProgramLine {
  std::string field;  ///< "delay", "hold", "interval" or "gap", "count", "each", "sound"; of a camera's own
                      ///< movie "interval", "count" or "shooting_time", "rate"
  std::string name;   ///< the same in plain words
  std::string word;   ///< what is printed on this person's timer
  std::string value;  ///< what is keyed in
  std::string why;
};

/// The five settings to follow by torch, in the order hands do them.
std::vector<ProgramLine> program_lines(const Program& program);

/// "00:00:24", or with tenths "00:00:04.8" where the timer tells them: how a timer's own display shows a
/// time.
std::string timer_digits(Seconds seconds, Seconds smallest_step_s);

}  // namespace askcount::timer
