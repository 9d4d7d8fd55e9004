// SPDX-License-Identifier: GPL-3.0-or-later
// The one model of what feeds a camera: how long batteries and banks last, by shots, hours, screen, cold,
// heater and waiting.
#pragma once

#include <string>
#include <vector>

#include "plan/kit.h"
#include "plan/shot_cycle.h"

namespace askcount::plan {

struct Outing;

/// One battery, or all banks together, as it is used up: by exposures or by the time it is switched on,
/// whichever ends first. Infinite where it does not end that way.
struct Power {
  std::string name;
  double exposures = 0;
  Seconds on_s = 0;  ///< the waiting before the first shot is off it already
  /// How many shots it gives, one after the other at this interval; none that it does not last through.
  double shots(Seconds interval_s, int brackets) const;
};

/// What feeds the camera, in the order it is used: the batteries, or with external power the kit's banks as
/// one; one that never ends where power comes from the mains. Batteries as rated, less with cold (1.5 % a
/// degree below the temperature they are rated at, never below 30 %); banks their watt-hours less the
/// adapter's loss and the cold, by what camera and heater draw. Empty where the kit has no battery.
std::vector<Power> power_of(const Kit& kit, const Outing& outing);

/// What cold leaves of a rating; all of it where the cold is not to count.
double cold_of(const Outing& outing, double rated_at_c = 20);

}  // namespace askcount::plan
