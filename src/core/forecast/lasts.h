// SPDX-License-Identifier: GPL-3.0-or-later
// "As long as it lasts": the first thing that ends gives the frames.
#pragma once

#include <string>

#include "take/take.h"

namespace askcount::forecast {

/// A take that is shot until battery, power bank, card or timer ends, or its field time where one was said
/// (with an interval that fits into it where none was). What it says of frames and field time gives way to
/// the frames that follow, said and pinned. Throws BadInput where no interval follows and no field time is
/// said.
take::Take as_long_as_it_lasts(take::Take take);

/// "The film: 51.4 s at 24 fps, 49.4 s at 25 fps, 41.1 s at 30 fps." Throws BadInput where the wishes are
/// too few.
std::string lengths_words(const take::Take& take);

}  // namespace askcount::forecast
