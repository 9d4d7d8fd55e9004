// SPDX-License-Identifier: GPL-3.0-or-later
// Exposures of one press put together: brackets and bursts.
#pragma once

#include <cstddef>
#include <vector>

#include "media/frame.h"

namespace askcount::ingest {

/// One press of the timer: `count` exposures from `first` on.
struct Shot {
  size_t first = 0, count = 1;
  bool operator==(const Shot&) const = default;
};

/// Exposures in the order they were shot as shots. A bracket is known by exposures that repeat from shot to
/// shot, or by exposures that come much closer to each other than the shots do; it may lack a file here and
/// there. Everything else is a shot of its own.
std::vector<Shot> shots_of(const std::vector<media::Exposure>& exposures);

}  // namespace askcount::ingest
