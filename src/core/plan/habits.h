// The habits people have for intervals, with a reason each.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/units.h"

namespace askcount::plan {

/// One habit. Where schools differ there are several of one subject.
struct Habit {
  const char* subject;
  Seconds from_s, to_s;
  const char* reason;
};

/// All of them, in the order of the table.
const std::vector<Habit>& habits();

/// Those whose subject is, or is part of, what the person wrote ("fast clouds" and "slow clouds" for
/// "clouds"). Empty where nobody has a habit for it.
std::vector<Habit> habits_for(std::string_view subject);

}  // namespace askcount::plan
