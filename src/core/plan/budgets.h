// SPDX-License-Identifier: GPL-3.0-or-later
// What runs out, at which frame and when, and when to change what.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/cold.h"
#include "base/finding.h"
#include "plan/camera_state.h"
#include "plan/kit.h"
#include "plan/shot_cycle.h"
#include "plan/sums.h"

namespace askcount::plan {

/// The circumstances that budgets depend on besides the kit.
struct Outing {
  double temperature_c = 15;
  bool external_power = false;
  long long timer_max_count = 0;  ///< 0 where the timer runs endlessly
  double disk_free_gb = 0;        ///< at home; 0 where unknown
  bool lamp = false;              ///< a lamp lights the subject, on its own batteries
  bool kit_known = true;          ///< otherwise the kit is an example, and what it holds is not judged
  bool timer_known = true;        ///< otherwise its limit is an example too
  Seconds waiting_s = 0;          ///< switched on before the first shot
  bool cold_counts = true;        ///< otherwise batteries give what they are rated for
  bool heater = false;            ///< the lens heater is fed too
  bool timer_each_day = false;    ///< the timer counts anew each day, and far enough
  bool operator==(const Outing&) const = default;
};

/// One thing that runs out.
struct Budget {
  std::string name;  ///< "battery", "power bank", "card", "buffer", "timer", "file numbers", "shutter life",
                     ///< "disk", "lamp"
  double shots = 0;  ///< how many it is good for; infinite where it does not end
  double share = 0;  ///< of it that the take uses; above 1 it ends first
  std::optional<long long>
      ends_at_frame;         ///< the last shot it is good for (from 1), where that is before the take's end
  Seconds ends_after_s = 0;  ///< field time until then
  std::string words;         ///< "lasts to frame 612"
  bool example = false;      ///< by an example kit, because no kit is set
};

/// Every budget of a take: `shots` releases of `make.brackets` exposures. What feeds the camera by
/// power_of(). Batteries, banks and cards all come along.
std::vector<Budget> budgets_of(const Sums& sums, const ShotMake& make, const Kit& kit, const Outing& outing);

/// What a camera and the cards can do that take a take's shots: everything of CameraState's but what feeds it
/// (see power_of).
CameraLimits limits_of(const ShotMake& make, const Kit& kit);

/// What the buffer does when a take's files come faster than the card takes them.
struct Buffering {
  long long fits = 0;  ///< shots until the first is not heard; all of them where none is lost
  long long lost = 0;  ///< of the take's shots
};
/// Shot by shot, as a camera does: a press is not heard while the files of one shot do not fit beside what
/// still waits.
Buffering buffering_of(const Sums& sums, const ShotMake& make, const Kit& kit);

/// How many shots the batteries give where the camera's screen stays off: more where their hours end before
/// their rated shots do, by the screen's part of the power.
double shots_with_screen_off(const Budget& battery, const Sums& sums, const Kit& kit, const Outing& outing);

/// Finds what ends first and when to change what (without touching the frame). Examples are shown, never
/// judged.
Findings judge(const std::vector<Budget>& budgets, const Sums& sums, const ShotMake& make, const Kit& kit,
               const Outing& outing);

/// One change on the way: something is taken out and its successor put in.
struct Swap {
  std::string what;        ///< "battery", "card" or "timer" (start it again)
  std::string from, to;    ///< names; `to` is empty where none is left
  long long at_frame = 0;  ///< right after this shot (from 1), a few before it would end
  Seconds after_s = 0;     ///< field time until then
  std::string words;       ///< how, without touching the frame
};

/// Everything to be changed during the take, in order. A change falls two shots before the end of what is
/// changed.
std::vector<Swap> swaps_of(const Sums& sums, const ShotMake& make, const Kit& kit, const Outing& outing);

/// The longest interval at which the batteries' hours cover the take's shots; nothing where hours do not
/// matter.
std::optional<Seconds> longest_interval(const Sums& sums, const Kit& kit, const Outing& outing);

/// Where a number of shots lies on an axis for all budgets of a take: logarithmic, from a tenth of the take's
/// shots (0) over its shots (a third) to a hundred times them (1). Clamped.
double budget_axis(double shots, double take_shots);

/// Shots of a take: its frames and the spare ones.
long long shots_of(const Sums& sums);

}  // namespace askcount::plan
