// SPDX-License-Identifier: GPL-3.0-or-later
// What there is to say about a take's light: what crosses its frame, its ramp, its weather, and the usual
// cautions.
#pragma once

#include "ramp/ramp.h"
#include "take/take.h"

namespace askcount::advice {

/// Whether the subject of the frame stays in it, dew, cold, wind, the ramp, and the usual cautions: sun in
/// optical finders and on sensors, dark edges, tides, staying with the gear. `ramp` is ramp_of(take).
Findings light_advice(const take::Take& take, const ramp::Ramp& ramp);

/// What its weather does to a take: dew, cold, wind. Throws BadInput where the wishes are too few.
Findings weather_words(const take::Take& take);

/// Cautions that fit the take's light and place, in plain words.
Findings cautions(const take::Take& take);

}  // namespace askcount::advice
