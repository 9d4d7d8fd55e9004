// SPDX-License-Identifier: GPL-3.0-or-later
// The twelve slots of the sentence: what a take can be asked by.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace askcount {

/// Units: lengths of time in seconds; Fps in frames a second; Frames a whole count; SpeedUp, Trail plain
/// numbers; Step a share of the frame's width.
enum class Slot {
  Clip,            ///< length of the film
  Fps,             ///< frame rate of the film
  Frames,          ///< frames in the film
  Interval,        ///< start of one shot to the start of the next
  Field,           ///< first shot's start to the last shot's end
  SpeedUp,         ///< field seconds in one film second
  FieldCrossing,   ///< the subject crosses the frame's width, in the field
  ScreenCrossing,  ///< the same on the screen
  Step,            ///< how far the subject moves between frames
  Trail,           ///< shutter as a share of the interval
  Shutter,         ///< how long one exposure is open
  Gap              ///< end of a shot to the start of the next
};

inline constexpr int kSlots = 12;
inline constexpr std::array<Slot, kSlots> kAllSlots = {
    Slot::Clip,  Slot::Fps,     Slot::Frames,        Slot::Interval,
    Slot::Field, Slot::SpeedUp, Slot::FieldCrossing, Slot::ScreenCrossing,
    Slot::Step,  Slot::Trail,   Slot::Shutter,       Slot::Gap};

/// The word used in takes and as the command's option: "clip", "fps", "frames", "interval", "field",
/// "speed-up", "crossing", "screen-crossing", "step", "trail", "shutter", "gap".
const char* slot_word(Slot slot);

/// The slot of a word; nothing where there is none.
std::optional<Slot> slot_of_word(std::string_view word);

/// For sentences: "the clip", "the frame rate", …
std::string slot_name(Slot slot);

}  // namespace askcount
