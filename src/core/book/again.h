// SPDX-License-Identifier: GPL-3.0-or-later
// A take done again: a new one from an old one, and when the sky stands as it did.
#pragma once

#include <vector>

#include "book/entry.h"
#include "sky/ephemeris.h"
#include "take/take.h"

namespace askcount::book {

/// A new take from an old one: its name, subject, place, framing, wishes, kit, timer, film and look stay;
/// frames, ticks, clicks, weather and what a meter said do not, for they are of that day. It begins at the
/// same time of day on `day`, or, where the old one's time is not known, has no date. The light is worked out
/// again for it by itself.
take::Take begun_again(const take::Take& old, const Day& day);

/// When a body stands where it stood at a moment.
struct Again {
  Instant at;
  double off_deg = 0;   ///< how far from there it is, as an angle
  double moon_lit = 0;  ///< share of the moon's disc then
};

/// The best moments of each stretch of days in which `body` stands within half a degree (of the moon: two) of
/// where it stood at `then` over `place`, seen from there, from `from` on, up to this many days; in order of
/// time. The sun comes back twice a year, the core of the galaxy four minutes earlier every day: of that one
/// only the nights count, and of each moon the darkest.
std::vector<Again> again(sky::Body body, Instant then, const sky::Place& place, Instant from, int days);

}  // namespace askcount::book
