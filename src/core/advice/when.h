// SPDX-License-Identifier: GPL-3.0-or-later
// When to shoot: windows of light and dark nights, in words, each with the start it suggests.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "take/take.h"

namespace askcount::advice {

/// One suggestion.
struct Suggestion {
  std::string title;             ///< "Day into night", "12 Oct"
  std::string text;              ///< why then, and what the first and the last frame will look like
  std::optional<Instant> start;  ///< of the first shot; nothing where it only says why there is none
};

/// The evening that the take's night belongs to: before eleven in the morning that of the day before.
Day evening_of(const take::Take& take);

/// Windows of that evening, night and morning; then the kinds that do not happen, with their reasons. Throws
/// BadInput where the take's wishes are too few, or place and day are not said.
std::vector<Suggestion> windows_for(const take::Take& take);

/// Throws BadInput where place and day are not said. The best nights for the galaxy's core in the month from
/// that evening on, at most `most`.
std::vector<Suggestion> nights_for(const take::Take& take, size_t most);

}  // namespace askcount::advice
