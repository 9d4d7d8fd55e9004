// SPDX-License-Identifier: GPL-3.0-or-later
// A subject lit by flash: one flash an exposure, however long the shutter is open.
#pragma once

#include "plan/kit.h"

namespace askcount::plan {

/// The kit's lamp that flashes; null where the first in use burns all the time, or there is none.
const Lamp* flash_of(const Kit& kit);

/// The f-number at which a flash lights a subject right: guide number ÷ distance × √(ISO ÷ 100). Source: what
/// a guide number is. Metres.
double flash_f_number(double guide_m, double distance_m, double iso);

/// Aperture and ISO for a flash: the lowest ISO of the body at which the lens opens far enough, both in
/// thirds of a stop. `missing_stops` is what the flash is too weak by at the highest ISO, wide open.
struct FlashSetting {
  double f_number = 8, iso = 100;
  double missing_stops = 0;
};
FlashSetting flash_setting(double guide_m, double distance_m, const Body& body, const Lens& lens);

/// The shortest shutter that is open over the whole frame at once: shorter ones leave part of it unlit. What
/// most bodies have.
inline constexpr Seconds kShortestWithFlash_s = 1.0 / 200;

}  // namespace askcount::plan
