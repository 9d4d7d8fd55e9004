// The checklist of camera and rig, in the order hands do it, adapted to the take.
#pragma once

#include <string>
#include <vector>

#include "take/take.h"

namespace askcount::advice {

/// One thing to do, with its reason.
struct CheckItem {
  std::string code;   ///< stable, for ticks
  std::string group;  ///< "Rig", "Camera", "Cards and power", "Before you start", "Care"
  std::string what;
  std::string why;
};

/// All of them for a take. Cautions come last and defer to local rules and licensed practice.
std::vector<CheckItem> checklist_of(const take::Take& take);

}  // namespace askcount::advice
