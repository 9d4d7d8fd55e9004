// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers as people write them: the one place that reads them, for the window's slots and the command's
// options.
#pragma once

#include <optional>
#include <string_view>

#include "base/about.h"

namespace askcount {

/// The number at the front of `text`, without a sign, consumed; nothing where there is none. Groups of three
/// may stand apart by blanks or apostrophes, and by the mark that the language spoken puts there: "1,250" in
/// English and "1.250" in German are 1250. Point and comma otherwise stand before decimals, one of them and
/// once: "4.8", "4,8", "1,250.5". The other mark groups where it does so twice: "1.250.000" is a million and
/// more in English too.
std::optional<double> take_number(std::string_view& text);

/// The one number in a text, with a sign or without, and whatever unit or name stands beside it: "24 mm",
/// "ISO 100,000", "−3 °C". Throws BadInput that says what may be written where there is none, more than one,
/// or one that is not from `low` to `high`; `name` is how it is called in the middle of a sentence.
double parse_number(std::string_view text, double low, double high, std::string_view name);

}  // namespace askcount
