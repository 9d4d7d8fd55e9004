// SPDX-License-Identifier: GPL-3.0-or-later
// Two takes side by side, or one by itself: plan and outcome line by line.
#pragma once

#include <string>
#include <vector>

#include "book/entry.h"

namespace askcount::book {

/// One line: what it is, and what each has; empty where one does not say it.
struct Line {
  std::string group;  ///< "Plan", "Kit", "Outcome", "Said"
  std::string what;
  std::vector<std::string> each;  ///< one for each take
  bool differ = false;
};

/// Every line that at least one of the takes has something for, in the order of the work.
std::vector<Line> lines_of(const std::vector<Entry>& takes);

}  // namespace askcount::book
