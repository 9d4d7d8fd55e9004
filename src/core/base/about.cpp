// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/about.h"

#include "base/language.h"

namespace askcount {
namespace {

struct Names {
  const char* word;
  const char* name;
};

constexpr Names kNames[] = {{"meter", to_say("the meter reading")},
                            {"brackets", to_say("the bracket")},
                            {"fault", to_say("the fault")},
                            {"flaw", to_say("the flaw")},
                            {"focal", to_say("the focal length")},
                            {"bearing", to_say("the bearing")},
                            {"seconds", to_say("the time between the pictures")}};

std::string begun(std::string name) {
  if (!name.empty() && name[0] >= 'a' && name[0] <= 'z') name[0] = static_cast<char>(name[0] - 'a' + 'A');
  return name;
}

}  // namespace

const char* about_word(const About& about) {
  if (const Slot* slot = std::get_if<Slot>(&about)) return slot_word(*slot);
  return kNames[static_cast<std::size_t>(std::get<Input>(about))].word;
}

std::string about_name(const About& about) {
  if (const Slot* slot = std::get_if<Slot>(&about)) return slot_name(*slot);
  return say(kNames[static_cast<std::size_t>(std::get<Input>(about))].name);
}

Called::Called(Slot slot) : about(slot), words(begun(about_name(slot))) {}
Called::Called(Input input) : about(input), words(begun(about_name(input))) {}

}  // namespace askcount
