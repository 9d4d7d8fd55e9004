// SPDX-License-Identifier: GPL-3.0-or-later
// The kinds of faults a frame can have, in one table: word, title, lane and severity. A new kind is an
// enumerator here and a row in fault_kinds.cpp.
#pragma once

#include <array>
#include <string>
#include <string_view>

#include "base/finding.h"

namespace askcount::inspect {

enum class FaultKind {
  Late,            ///< off the beat
  Early,           ///< the same
  Missing,         ///< frames that never came, between two
  Double,          ///< a second shot by one press
  Bump,            ///< the camera stands otherwise from here on
  Swing,           ///< it moved and came back
  Sinking,         ///< it moves slowly, one way
  Wind,            ///< it shakes
  Soft,            ///< not sharp
  Hunting,         ///< the focus comes and goes
  Dew,             ///< contrast falls
  Visitor,         ///< somebody or something close by
  Dark,            ///< much darker than its neighbours
  Blank,           ///< nothing in it
  Clipped,         ///< white without detail
  ClickOff,        ///< an exposure that was not planned
  SettingChanged,  ///< a dial or switch of the camera
  Truncated,       ///< the file is cut short
  Unreadable,      ///< the file cannot be read
  SizeDiffers      ///< other pixels than the rest
};

/// What is measured of every frame, each in a lane of its own.
enum class LaneKind { Beat, Still, Sharp, Clear, Alike, Exposure };

/// The word in JSON, in the book and in takes: "late", "setting_changed", …
const char* fault_word(FaultKind kind);
/// Its lane, and how grave it is.
LaneKind lane_of(FaultKind kind);
Severity severity_of(FaultKind kind);
/// What `count` faults of a kind are called, the first of them at `frame` (from 0): "Bumped at frame 31",
/// "Bumped 3 times".
std::string title_of(FaultKind kind, long long count, std::size_t frame);

}  // namespace askcount::inspect
