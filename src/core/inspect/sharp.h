// SPDX-License-Identifier: GPL-3.0-or-later
// Whether frames are sharp at all, by themselves: for a few test frames that nothing sharper stands beside.
#pragma once

#include <optional>

#include "inspect/measures.h"

namespace askcount::inspect {

/// Log2 of the energy of a frame's finest detail against that of its middle-sized detail, the mean of its
/// parts.
double fineness(const Measures& frame);

/// Whether a look's frames are sharp at the size they are looked at (1,400 pixels across): in a sharp picture
/// the sharpest few in a thousand pixels stand far out of the usual ones, and there is nearly as much of the
/// finest detail as of middle-sized. A blur of one such pixel is told. Nothing where it cannot be told: no
/// frame was seen, or it is somewhere between.
std::optional<bool> is_sharp(const Look& look);

}  // namespace askcount::inspect
