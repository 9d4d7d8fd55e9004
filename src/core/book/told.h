// SPDX-License-Identifier: GPL-3.0-or-later
// What a person tells of a take: of one that Ask Count had no part in, or more of one that is there.
#pragma once

#include <optional>
#include <string>

#include "book/entry.h"

namespace askcount::book {

/// What is empty says nothing and changes nothing.
struct Told {
  std::string name, subject, place, zone;
  std::optional<double> latitude_deg, longitude_deg;  ///< positive north and east
  std::optional<Instant> start;                       ///< of the first shot
  std::optional<long long> frames, planned;           ///< that there are; that were planned
  std::optional<double> interval_s, fps;
  std::optional<Verdict> verdict;
  std::optional<std::string> note, change;
};

/// Puts it into an entry. With an interval the frames that came have a beat and a length in the field too.
/// Throws BadInput for coordinates that are nowhere, numbers of frames below 1, an interval or a frame rate
/// that is not above 0; the entry is then as it was.
void tell(Entry& entry, const Told& told);

/// An entry by hand. Throws as tell(), and BadInput where it has no name.
Entry entry_by_hand(const Told& told);

}  // namespace askcount::book
