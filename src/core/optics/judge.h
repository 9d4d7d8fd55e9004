// SPDX-License-Identifier: GPL-3.0-or-later
// What there is to say about lens and sensor.
#pragma once

#include <optional>
#include <string>

#include "base/finding.h"
#include "media/frame.h"
#include "optics/lens_records.h"
#include "optics/wish.h"

namespace askcount::optics {

/// What a lens does, for people: "barrel of 2.1 %, corners 0.9 stops darker, fringes".
std::string words_of(const LensRecord& record);

/// Whether a take may have hot pixels: raw frames of a second or longer.
bool may_be_hot(const media::Frames& frames);

/// What is undone, what could be and what has not been looked for. `known` is the record of the lens the
/// frames were shot with; nothing where there is none.
Findings judge(const Wish& wish, const media::Frames& frames, const std::optional<LensRecord>& known);

}  // namespace askcount::optics
