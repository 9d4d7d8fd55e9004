// SPDX-License-Identifier: GPL-3.0-or-later
// Keys of a take that this version does not know: kept as they are.
#pragma once

#include "base/json.h"

namespace askcount::take {

/// What `given` has and `known` has not: an object with the keys that are absent there, and within objects
/// and lists both have the same of theirs. Null where there is nothing.
Json unknown_keys(const Json& given, const Json& known);

/// Puts it back into what was written: keys that are there by now stay as they are. Entries of lists are
/// found again by their name, slot or code where they have one, otherwise by their place.
void put_unknown_keys(Json& written, const Json& unknown);

}  // namespace askcount::take
