// SPDX-License-Identifier: GPL-3.0-or-later
// Answers of today held against answers that were kept.
#pragma once

#include <string>

#include "base/json.h"

namespace askcount::test {

/// How exactly an answer is held: sums to their sixth digit; what was drawn, and is rounded to codes on the
/// way, to a thousandth; what was measured in encoded pictures to a fiftieth, and without the words that say
/// such numbers.
enum class Held { Exactly, Drawn, Measured };

/// Holds an answer against the one that was kept as tests/data/answers/`name`.json. Where
/// ASKCOUNT_KEEP_ANSWERS is set it is kept instead: for changes that are meant, and whose difference is read.
void hold(const Json& now, const std::string& name, Held held = Held::Exactly);

}  // namespace askcount::test
