// SPDX-License-Identifier: GPL-3.0-or-later
// What a value that somebody gave is about: the command words it as an option, the window puts it at its
// slot.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <variant>

#include "base/slot.h"

namespace askcount {

/// Values that are no slots of the sentence.
enum class Input { Meter, Brackets, Fault, Flaw, FocalLength, Bearing, TimeBetween };

using About = std::variant<Slot, Input>;

/// The word used as the command's option: "meter", "brackets", "fault", "flaw", "focal", "bearing",
/// "seconds"; of a slot slot_word().
const char* about_word(const About& about);
/// For sentences: "the meter reading", "the interval".
std::string about_name(const About& about);

/// How an error calls a value: by what it is about, or by words alone.
struct Called {
  std::optional<About> about;
  std::string words;  ///< at the beginning of a sentence: "The interval"

  Called(Slot slot);
  Called(Input input);
  Called(std::string_view named) : words(named) {}
  Called(const std::string& named) : words(named) {}
  Called(const char* named) : words(named) {}
};

}  // namespace askcount
