// Everything Ask Count has to say about a plan before it is shot.
#pragma once

#include "take/take.h"

namespace askcount::take {

/// Findings on the whole plan, stops first: does the camera keep up, what the timer can be told, motion, exposure, budgets,
/// habits. Where the wishes are too few, what is missing. Pure; under 1 ms.
Findings advice(const Take& take);

/// What differs from the habits for the take's subject; an agreeing finding where the interval is within one. Empty where
/// there is no habit.
Findings judge_habit(const plan::Sums& sums, const std::string& subject);

}  // namespace askcount::take
