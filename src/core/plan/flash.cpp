// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/flash.h"

#include <algorithm>
#include <cmath>

namespace askcount::plan {

const Lamp* flash_of(const Kit& kit) {
  return !kit.lamps.empty() && kit.lamps.front().flashes > 0 ? &kit.lamps.front() : nullptr;
}

double flash_f_number(double guide_m, double distance_m, double iso) {
  return guide_m / distance_m * std::sqrt(iso / 100);
}

FlashSetting flash_setting(double guide_m, double distance_m, const Body& body, const Lens& lens) {
  // In thirds from f/1 and ISO 100: stops of aperture are 2 log2 f.
  const double right = 2 * std::log2(flash_f_number(guide_m, std::max(0.01, distance_m), 100));
  const double widest = 2 * std::log2(lens.widest_f),
               smallest = 2 * std::log2(std::max(lens.widest_f, lens.smallest_f));
  const double lowest = std::log2(body.lowest_iso / 100), highest = std::log2(body.highest_iso / 100);
  const double iso = std::clamp(std::ceil((widest - right) * 3 - 1e-9) / 3, lowest, highest);
  const double stops = std::clamp(std::round((right + iso) * 3) / 3, widest, smallest);
  return {std::exp2(stops / 2), 100 * std::exp2(iso), std::max(0.0, widest - (right + highest))};
}

}  // namespace askcount::plan
