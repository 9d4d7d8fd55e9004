// SPDX-License-Identifier: GPL-3.0-or-later
// The film's axis that Level's chart and lanes share.
#pragma once

namespace askcount::app {

/// Pixels left of the film for names, and right of it.
inline constexpr double kAxisLeft = 88, kAxisRight = 12;

}  // namespace askcount::app
