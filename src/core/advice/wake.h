// SPDX-License-Identifier: GPL-3.0-or-later
// A long take that nobody watches all the time: what somebody must be there, and awake, for.
#pragma once

#include <string>
#include <vector>

#include "ramp/ramp.h"
#include "take/take.h"

namespace askcount::advice {

/// One thing to be there for.
struct Wake {
  Seconds after_s = 0;  ///< field time from the first shot
  std::string what;     ///< "change the battery: Cell A for Cell B"
};

/// In order of time: changes of battery, card and timer, the filter that comes off, dew, the stretch that is
/// turned by hand, and the end. Empty for takes under two hours: those are stayed with. Throws BadInput where
/// the wishes are too few.
std::vector<Wake> wakes_of(const take::Take& take, const ramp::Ramp& ramp);

/// The same as one finding with clocks, or with hours from the first shot where no date is said. Empty where
/// there is nothing.
Findings judge_wakes(const take::Take& take, const ramp::Ramp& ramp);

}  // namespace askcount::advice
