// SPDX-License-Identifier: GPL-3.0-or-later
// What timer, camera and stand-in are ordered to do for a take.
#pragma once

#include "forecast/exposure.h"
#include "plan/budgets.h"
#include "simulate/shoot.h"
#include "take/take.h"
#include "timer/keyed.h"

namespace askcount::forecast {

/// Where and when the stand-in shoots a take: as the take says, and where it says nothing as its scene does.
struct World {
  sky::Place place;
  Instant start;
};
World world_of(const take::Take& take);

/// What it sees there: the take's scene under the take's own sky, as bright as the plan's light.
struct Scenery {
  std::string scene;
  simulate::SceneSetting setting;
  double light_stops = 0;  ///< how much brighter the plan's light is than that scene by itself
};
Scenery scenery_of(const take::Take& take, image::Size size);

/// The time one shot takes with this shutter.
plan::ShotCycle cycle_of(const take::Take& take, Seconds shutter_s);

/// The circumstances its budgets depend on.
plan::Outing outing_of(const take::Take& take);

/// The real moment of a take's first shot when start is pressed at `pressed`: by the clock where that is
/// still to come, else after its delay, or at once. Throws as program_of.
Instant first_shot_at(const take::Take& take, Instant pressed);

/// Every budget of a take, by its kit or by the example kit; and what is changed on the way, nothing where
/// no kit is set.
std::vector<plan::Budget> budgets_of(const take::Take& take, const plan::Sums& sums);
std::vector<plan::Swap> swaps_of(const take::Take& take, const plan::Sums& sums);

/// The frames (from 0) before which a growing close-up is focused anew, by the aperture in use; empty where
/// it stays in focus. At most 500.
std::vector<long long> refocus_at(const take::Take& take, const ExposurePlan& exposure);

/// The take's sums at the interval that its timer really runs at: what follows from that (gap, field time,
/// speed-up, trail, step, crossing of the screen) with it. Throws BadInput where the wishes are too few.
plan::Sums sums_as_run(const take::Take& take);

/// What its slider does; of no use where it has none.
plan::Sliding sliding_of(const take::Take& take, const plan::Sums& sums, Seconds shutter_s);

/// What it asks for where it takes days; nothing otherwise.
std::optional<plan::DaysPlan> days_of(const take::Take& take, const plan::Sums& sums);

/// What its timer is told. Throws BadInput where the take's wishes are too few.
timer::Program program_of(const take::Take& take);
/// The same, for the exposures that exposure_of() gave.
timer::Program program_of(const take::Take& take, const ExposurePlan& exposure);

/// The camera as the take's timer presses it, its shutter following the light where it does; see
/// timer::camera_for. And the sums that a hand keys in at once: the take's, or of the longest of its days.
timer::Pressed camera_of(const take::Take& take, const timer::Program& program, const ramp::Ramp& ramp,
                         const ExposurePlan& exposure, Seconds keyed_hold_s);
plan::Sums sums_at_once(const take::Take& take, const timer::Program& program);

/// What the stand-in is to do for a take. Throws as program_of.
simulate::ShootOrder shoot_order(const take::Take& take, const std::filesystem::path& card);

/// The stand-in's rig for a take: it plays forecast_of(). Its program, its camera, a hand that follows the
/// light; the person's own batteries, cards, buffer and timer end, the cold counts. An example kit lasts, and
/// without `limits` everything does. Throws as program_of.
simulate::RigSetting rig_of(const take::Take& take, const std::filesystem::path& card, bool limits = true);

}  // namespace askcount::forecast
