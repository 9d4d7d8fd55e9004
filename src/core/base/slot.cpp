// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/slot.h"

#include "base/language.h"

namespace askcount {
namespace {

struct SlotNames {
  const char* word;
  const char* name;
};

constexpr SlotNames kSlotNames[kSlots] = {{"clip", to_say("the clip")},
                                          {"fps", to_say("the frame rate")},
                                          {"frames", to_say("the number of frames")},
                                          {"interval", to_say("the interval")},
                                          {"field", to_say("the field time")},
                                          {"speed-up", to_say("the speed-up")},
                                          {"crossing", to_say("the field crossing")},
                                          {"screen-crossing", to_say("the screen crossing")},
                                          {"step", to_say("the step")},
                                          {"trail", to_say("the trail")},
                                          {"shutter", to_say("the shutter")},
                                          {"gap", to_say("the gap")}};

const SlotNames& names(Slot slot) {
  return kSlotNames[static_cast<int>(slot)];
}

}  // namespace

const char* slot_word(Slot slot) {
  return names(slot).word;
}
std::string slot_name(Slot slot) {
  return say(names(slot).name);
}

std::optional<Slot> slot_of_word(std::string_view word) {
  for (const Slot slot : kAllSlots)
    if (word == slot_word(slot)) return slot;
  return {};
}

}  // namespace askcount
