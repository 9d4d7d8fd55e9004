// Everything Ask Count has to say about a plan before it is shot.
#pragma once

#include "plan/settable.h"
#include "take/take.h"

namespace askcount::advice {

/// Findings on the whole plan, stops first: does the camera keep up, what the timer can be told, motion,
/// exposure, budgets, habits. Where the wishes are too few, what is missing. Pure; under 1 ms.
Findings plan_advice(const take::Take& take);

/// A stop where the kit has no timer of the take's name: what is said of the timer is said of another. Empty
/// otherwise.
Findings judge_timer_name(const take::Take& take);

/// What differs from the habits for the take's subject; an agreeing finding where the interval is within one.
/// Empty where there is no habit.
Findings judge_habit(const plan::Sums& sums, const std::string& subject);

/// Stars that drift, and close-ups that grow out of the focus. Empty where the take is about neither.
Findings judge_focus(const plan::Sums& sums, const take::Take& take);

/// What of the plan cannot be set as it was worked out, both said; empty where all can.
Findings judge_settable(const plan::Sums& sums, const plan::Settable& settable);

}  // namespace askcount::advice
