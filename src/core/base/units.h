// SPDX-License-Identifier: GPL-3.0-or-later
// Lengths of time, shares and counts as people write and read them.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "base/about.h"
#include "base/language.h"

namespace askcount {

/// A length of time in seconds.
using Seconds = double;

/// Reads a length in the usual ways: "90", "90 s", "1.5 min", "1h30", "1 h 30 min", "2:30" (minutes and
/// seconds), "1:02:03", "1/125", "250 ms", "2 d". A bare number is seconds; a bare number after "h" is
/// minutes and after "min" or "m" seconds. Numbers are read as take_number() does. `name` is how errors
/// call the value. Throws BadInput for anything else, and for lengths that are not above zero or exceed 100
/// years.
Seconds parse_length(std::string_view text, const Called& name);

/// Reads a plain number above zero ("0.5", "1/2", "0,5", "1,250"). Throws BadInput.
double parse_positive(std::string_view text, const Called& name);

/// Reads a whole number above zero, grouped in any way ("250", "3,000", "3.000", "3 000"). Throws BadInput.
long long parse_count(std::string_view text, const Called& name);

/// A decimal number at the front of `text`, with a sign or without, consumed; nothing where there is none.
/// The point is a point, whatever the language.
std::optional<double> take_decimal(std::string_view& text);

/// A number for files and programs, with at most `decimals` decimals and no trailing zeros: 4.80 gives "4.8".
std::string plain_number(double value, int decimals);

/// The same for people, written as the language spoken does: "4,8" where a comma stands before decimals.
std::string format_number(double value, int decimals);

/// A count with thousands separated: 3,000.
std::string format_count(long long count);

/// A length in the two units that matter: "4.8 s", "19 min 58 s", "1 h 59 min 56 s", "2 d 3 h". Below a
/// minute with at most `decimals` decimals; from a minute on in whole seconds, below a hundred hours.
std::string format_length(Seconds seconds, int decimals = 2);

/// A shutter as dials say it: "1/125 s", "0.8 s" below one second, "2.5 s" from one on, "5 min" from a
/// minute on.
std::string format_shutter(Seconds seconds);

/// A share in words where there is a usual one: 0.5 is "half a step", 1 "a whole step", otherwise "0.8 of a
/// step".
std::string format_trail(double trail);

/// Letters A to Z made small; all others stay, whatever the language.
std::string lowered(std::string text);

}  // namespace askcount
