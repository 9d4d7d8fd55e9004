// What timer, camera and stand-in are ordered to do for a take.
#pragma once

#include "plan/budgets.h"
#include "standin/shoot.h"
#include "take/take.h"
#include "timer/program.h"

namespace askcount::orders {

/// The time one shot takes with this shutter.
plan::ShotCycle cycle_of(const take::Take& take, Seconds shutter_s);

/// The circumstances its budgets depend on.
plan::Outing outing_of(const take::Take& take);

/// What its timer is told. Throws BadInput where the take's wishes are too few.
timer::Program program_of(const take::Take& take);

/// What the stand-in is to do for a take. Throws as program_of.
standin::ShootOrder shoot_order(const take::Take& take, const std::filesystem::path& card);

/// The stand-in's rig for a take: its program, its camera, a hand that follows the light. With `limits` the
/// kit's battery, card and buffer end and the cold counts; without, everything lasts. Throws as program_of.
standin::RigSetting rig_of(const take::Take& take, const std::filesystem::path& card, bool limits);

}  // namespace askcount::orders
