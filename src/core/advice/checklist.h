// SPDX-License-Identifier: GPL-3.0-or-later
// The checklist of camera and rig, in the order hands do it, adapted to the take.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "take/take.h"

namespace askcount::advice {

/// One thing to do, with its reason.
struct CheckItem {
  std::string code;   ///< stable, for ticks
  std::string group;  ///< "Learnt", "Rig", "Camera", "Cards and power", "Before you start", "Care"
  std::string what;
  std::string why;
};

/// What keeps a mistake that came in this many takes from being made again ("Learnt"); nothing for a code it
/// has no words for. Codes are those of inspect::Fault and "missed" (presses not heard), "click_late" and
/// "short" (fewer frames than planned).
std::optional<CheckItem> against(const std::string& code, long long takes);

/// All of them for a take, what was learnt from others (Take::again) first. Cautions come last and defer to
/// local rules and licensed practice.
std::vector<CheckItem> checklist_of(const take::Take& take);

}  // namespace askcount::advice
