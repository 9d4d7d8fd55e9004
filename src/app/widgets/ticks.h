// SPDX-License-Identifier: GPL-3.0-or-later
// The clock that what people time is timed by.
#pragma once

#include <cstdint>
#include <functional>

namespace askcount::app {

/// Milliseconds that only go on; from when is not said.
std::int64_t ticks_ms();

/// Another clock from now on, for tests that do not wait; none for the computer's own.
void drive_ticks(std::function<std::int64_t()> clock);

}  // namespace askcount::app
