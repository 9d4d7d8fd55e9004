// SPDX-License-Identifier: GPL-3.0-or-later
// What timer, camera and stand-in are ordered to do for a take.
#pragma once

#include "forecast/exposure.h"
#include "plan/budgets.h"
#include "simulate/shoot.h"
#include "take/take.h"
#include "timer/program.h"

namespace askcount::forecast {

/// Where and when the stand-in shoots a take: as the take says, and where it says nothing as its scene does.
struct World {
  sky::Place place;
  Instant start;
};
World world_of(const take::Take& take);

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

/// What its slider does; of no use where it has none.
plan::Sliding sliding_of(const take::Take& take, const plan::Sums& sums, Seconds shutter_s);

/// What it asks for where it takes days; nothing otherwise.
std::optional<plan::DaysPlan> days_of(const take::Take& take, const plan::Sums& sums);

/// What its timer is told. Throws BadInput where the take's wishes are too few.
timer::Program program_of(const take::Take& take);
/// The same, for the exposures that exposure_of() gave.
timer::Program program_of(const take::Take& take, const ExposurePlan& exposure);

/// What the stand-in is to do for a take. Throws as program_of.
simulate::ShootOrder shoot_order(const take::Take& take, const std::filesystem::path& card);

/// The stand-in's rig for a take: its program, its camera, a hand that follows the light. With `limits` the
/// kit's battery, card and buffer end and the cold counts; without, everything lasts. Throws as program_of.
simulate::RigSetting rig_of(const take::Take& take, const std::filesystem::path& card, bool limits);

}  // namespace askcount::forecast
