// SPDX-License-Identifier: GPL-3.0-or-later
// What there is to say while a take is being shot.
#pragma once

#include <optional>

#include "journal/state.h"
#include "take/take.h"

namespace askcount::advice {

/// What the stand-in told last of itself, as shares from 0 to 1.
struct Live {
  double battery = 1;  ///< left
  double card = 0;     ///< full
  double buffer = 0;   ///< full
};

/// Cautions for the place, how battery, card and buffer go, shots that were missed, faults, dew, the shot's
/// cycle. `live` is nothing while nothing was told; `read_back` where the timer's program was read back and
/// agreed.
Findings shoot_advice(const take::Take& take, const journal::ShootState& state,
                      const std::optional<Live>& live, bool read_back);

}  // namespace askcount::advice
