// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/power.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/language.h"
#include "plan/budgets.h"

namespace askcount::plan {
namespace {

constexpr double kNoEnd = std::numeric_limits<double>::infinity();
constexpr double kToTheLast = 1e-9;

}  // namespace

double cold_of(const Outing& outing, double rated_at_c) {
  return outing.cold_counts ? cold_share(outing.temperature_c, rated_at_c) : 1;
}

double Power::shots(Seconds interval_s, int brackets) const {
  const double by_exposures = exposures / std::max(1, brackets),
               by_hours = std::isinf(on_s) ? kNoEnd : on_s / interval_s;
  return std::floor(std::min(by_exposures, by_hours) * (1 + kToTheLast) + kToTheLast);
}

std::vector<Power> power_of(const Kit& kit, const Outing& outing) {
  if (outing.external_power && kit.power_banks.empty()) return {{say("external power"), kNoEnd, kNoEnd}};
  std::vector<Power> list;
  if (outing.external_power) {
    const double watts =
        (kit.bodies.empty() ? Body{} : kit.bodies.front()).power_w + (outing.heater ? kit.heater_w : 0);
    Power banks{"", kNoEnd, 0};
    for (const PowerBank& b : kit.power_banks) {
      banks.name += (banks.name.empty() ? "" : " + ") + b.name;
      banks.on_s += b.watt_hours * (1 - b.adapter_loss) * cold_of(outing) / watts * 3600;
    }
    list.push_back(banks);
  } else {
    for (const Battery& b : kit.batteries) {
      const double cold = cold_of(outing, b.rated_at_c);
      list.push_back({b.name, b.rated_shots * cold, b.powered_hours * 3600 * cold});
    }
  }
  if (!list.empty()) list.front().on_s = std::max(0.0, list.front().on_s - outing.waiting_s);
  return list;
}

}  // namespace askcount::plan
