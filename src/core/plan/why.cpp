// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/why.h"

#include <fmt/format.h>

#include "base/language.h"
#include "base/units.h"

namespace askcount::plan {
namespace {

std::string said(const Solution& s, Slot slot) {
  return s[slot] ? format_slot(slot, *s[slot]) : std::string("?");
}

}  // namespace

std::string why_words(Slot slot, const Solution& s) {
  if (!s[slot])
    return missing_words(s).empty() ? say("Unknown: nothing set so far leads here.")
                                    : missing_words(s, Naming::Words);
  std::string value = said(s, slot);
  const auto v = [&s](Slot other) { return said(s, other); };
  switch (s.relation(slot)) {
    case Relation::Wished:
      return say("You said {}. It holds until another wish contradicts it.", value);
    case Relation::Assumed:
      return slot == Slot::Shutter
                 ? say("Not set, so {} is assumed, as is usual for such a subject.", value)
                 : say("Not set, so half a step is assumed: the shutter angle of 180° that cinema uses.");
    case Relation::Proposed:
      return slot == Slot::Interval
                 ? say("Proposed: {}, as is usual for such a subject. It gives way to whatever you say.",
                       value)
                 : say("Proposed: {}. It gives way to whatever you say.", value);
    case Relation::Count:
      return slot == Slot::Frames ? say("Frames = clip × frame rate, rounded up to a whole one: {} × {} = "
                                        "{}. Source: definition of a film.",
                                        v(Slot::Clip), v(Slot::Fps), value)
             : slot == Slot::Clip
                 ? say("Clip = frames ÷ frame rate: {} ÷ {} = {}.", v(Slot::Frames), v(Slot::Fps), value)
                 : say("Frame rate = frames ÷ clip: {} ÷ {} = {}.", v(Slot::Frames), v(Slot::Clip), value);
    case Relation::SpeedUp:
      return slot == Slot::Interval
                 ? say("Interval = speed-up ÷ frame rate: {} ÷ {} = {}.{}", v(Slot::SpeedUp), v(Slot::Fps),
                       value,
                       s.relation(Slot::SpeedUp) == Relation::Crossing
                           ? say(" The speed-up is field crossing ÷ screen crossing: {} ÷ {}.",
                                 v(Slot::FieldCrossing), v(Slot::ScreenCrossing))
                           : "")
                 : say("Speed-up = interval × frame rate: {} × {} = {}.", v(Slot::Interval), v(Slot::Fps),
                       v(Slot::SpeedUp));
    case Relation::Field:
      return slot == Slot::Field
                 ? say("Field time = (shots − 1) × interval + one shot, first opening to last closing: {}. "
                       "The rule of thumb, shots × interval, counts one gap too many.",
                       value)
                 : say("From field time = (shots − 1) × interval + one shot, with {} in the field; a round "
                       "interval where one is within a frame of it.",
                       v(Slot::Field));
    case Relation::Crossing:
      return say("Speed-up = field crossing ÷ screen crossing: {} = {} ÷ {}.", v(Slot::SpeedUp),
                 v(Slot::FieldCrossing), v(Slot::ScreenCrossing));
    case Relation::Step:
      return say(
          "Step = interval ÷ field crossing: {} = {} ÷ {}. Source: definition; cinematographers pan no "
          "faster than a frame width in 7 s at 24 fps.",
          v(Slot::Step), v(Slot::Interval), v(Slot::FieldCrossing));
    case Relation::ScreenStep:
      return say("Step = 1 ÷ (screen crossing × frame rate): {} with {} at {}.", v(Slot::Step),
                 v(Slot::ScreenCrossing), v(Slot::Fps));
    case Relation::Trail:
      return say("Shutter = trail × interval: {} = {} × {}. Source: the cinema shutter angle, trail × 360°.",
                 v(Slot::Shutter), format_number(*s[Slot::Trail], 3), v(Slot::Interval));
    case Relation::Gap:
      return say(
          "Gap = interval − one shot: {} with one every {} and {} open. Source: definition; cabled timers "
          "count it.",
          v(Slot::Gap), v(Slot::Interval), v(Slot::Shutter));
    case Relation::None:
      break;
  }
  return value;
}

}  // namespace askcount::plan
