// SPDX-License-Identifier: GPL-3.0-or-later
// Everything Ask Count has to say about a plan before it is shot.
#pragma once

#include <optional>

#include "forecast/exposure.h"
#include "forecast/forecast.h"
#include "plan/settable.h"
#include "take/take.h"

namespace askcount::advice {

/// Findings on the whole plan, stops first: does the camera keep up, what the timer can be told, motion,
/// exposure, budgets, habits. Where the wishes are too few, what is missing. Without the exposures and the
/// forecast it works them out. Pure.
Findings plan_advice(const take::Take& take, const std::optional<forecast::ExposurePlan>& exposure = {},
                     const forecast::Forecast* forecast = nullptr);

/// A stop where the kit has no timer of the take's name: what is said of the timer is said of another. Empty
/// otherwise.
Findings judge_timer_name(const take::Take& take);

/// What differs from the habits for the take's subject, each method with its reason and the one near the
/// measured motion named; an agreeing finding where the interval is within one. Empty where there is no
/// habit.
Findings judge_habit(const plan::Sums& sums, const std::string& subject, Seconds shortest_gap_s);

/// Which of several speeds a kind of subject has here ("clouds" are fast or slow): a question each, with the
/// press that answers it. Empty where there is one speed only, or something says which: a measured or wished
/// crossing, or an interval of the person's own.
Findings which_speed(const take::Take& take);

/// How long the trail is, by what looks natural for the kind of subject.
Findings judge_trail(const plan::Sums& sums, const std::string& subject,
                     const forecast::ExposurePlan& exposure);

/// How the exposure is reached: filters, aperture and ISO of one that stands, both ends of one that follows
/// the light.
Findings judge_exposure(const take::Take& take, const forecast::ExposurePlan& exposure);

/// Stars that drift, and close-ups that grow out of the focus. Empty where the take is about neither.
Findings judge_focus(const plan::Sums& sums, const take::Take& take, const forecast::ExposurePlan& exposure);

/// What of the plan cannot be set as it was worked out, both said; empty where all can.
Findings judge_settable(const plan::Sums& sums, const plan::Settable& settable);

}  // namespace askcount::advice
