// SPDX-License-Identifier: GPL-3.0-or-later
// What one take says of the kit: numbers for kit.h to put together.
#pragma once

#include <vector>

#include "base/json.h"
#include "book/entry.h"
#include "ingest/gather.h"
#include "take/take.h"

namespace askcount::book {

/// What its frames say. "writing" (seconds that the body is busy after an exposure): from shots that came
/// late because it was, or at most what the interval left where none did. "buffer" (MB) and "card" (MB a
/// second): from a beat that held until the buffer was full, or at least what the card took where it always
/// held. "drift" (seconds an hour, above zero is slow): of the timer against the camera's clock, of takes of
/// ten minutes or more whose interval is the planned one. "releases" of the body's shutter.
std::vector<Measure> measures_of(const take::Take& take, const Entry& entry, const ingest::FoundTake& found);

/// Puts in what the journal's lines say: the entry's `shot`, and of the kit "battery" (frames of one battery)
/// or "battery hours" where its hours end before its shots do, at least those where it was changed before it
/// ended; "dials" (seconds from the opening before to the click) and "late clicks" (of `planned` clicks).
void learn(Entry& entry, const take::Take& take, const std::vector<Json>& journal);

/// Whether dew came, 0 or 1, at the take's humidity: where both are known.
std::optional<Measure> dew_of(const Entry& entry);

}  // namespace askcount::book
