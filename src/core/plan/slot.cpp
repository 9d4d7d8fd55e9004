#include "plan/slot.h"

#include <fmt/format.h>

#include <cmath>

#include "base/error.h"
#include "base/frame_rate.h"
#include "base/units.h"

namespace askcount::plan {
namespace {

struct Names {
  const char* word;
  const char* name;
};

constexpr Names kNames[kSlots] = {{"clip", "the clip"},
                                  {"fps", "the frame rate"},
                                  {"frames", "the number of frames"},
                                  {"interval", "the interval"},
                                  {"field", "the field time"},
                                  {"speed-up", "the speed-up"},
                                  {"crossing", "the field crossing"},
                                  {"screen-crossing", "the screen crossing"},
                                  {"step", "the step"},
                                  {"trail", "the trail"},
                                  {"shutter", "the shutter"},
                                  {"gap", "the gap"}};

const Names& names(Slot slot) {
  return kNames[static_cast<int>(slot)];
}

}  // namespace

const char* slot_word(Slot slot) {
  return names(slot).word;
}
const char* slot_name(Slot slot) {
  return names(slot).name;
}

std::optional<Slot> slot_of_word(std::string_view word) {
  for (const Slot slot : kAllSlots)
    if (word == slot_word(slot)) return slot;
  return {};
}

double parse_slot(Slot slot, std::string_view text) {
  const std::string name = std::string("--") + slot_word(slot);
  std::string clean(text);
  const auto drop_word = [&clean](std::string_view word) {
    if (const auto at = clean.find(word); at != std::string::npos) clean.erase(at);
  };
  double value = 0;
  switch (slot) {
    case Slot::Fps:
      value = parse_frame_rate(text, name).value();
      break;
    case Slot::Frames:
      drop_word("frame");
      value = static_cast<double>(parse_count(clean, name));
      break;
    case Slot::SpeedUp:
      drop_word("time");
      value = parse_positive(clean, name);
      break;
    case Slot::Step:
    case Slot::Trail:
      drop_word("of a step");
      if (clean.starts_with("half"))
        value = 0.5;
      else if (clean.starts_with("a quarter"))
        value = 0.25;
      else if (clean.starts_with("a whole"))
        value = 1;
      else if (!clean.empty() && clean.back() == '%')
        value = parse_positive(clean.substr(0, clean.size() - 1), name) / 100;
      else
        value = parse_positive(clean, name);
      break;
    default:
      value = parse_length(text, name);
      break;
  }
  check_slot(slot, value);
  return value;
}

std::string format_slot(Slot slot, double value) {
  switch (slot) {
    case Slot::Fps:
      return frame_rate_words(nearest_frame_rate(value));
    case Slot::Frames:
      return counted(std::llround(value), "frame");
    case Slot::SpeedUp:
      return (value < 1000 ? format_number(value, value < 10 ? 1 : 0) : format_count(std::llround(value))) +
             (value == 1 ? " time" : " times");
    case Slot::Step:
      return format_number(value * 100, value < 0.01 ? 2 : 1) + " %";
    case Slot::Trail:
      return format_trail(value);
    case Slot::Shutter:
      return format_shutter(value);
    case Slot::Interval:
    case Slot::Gap:
      return format_length(value, value < 10 ? 2 : 1);
    default:
      return format_length(value, 1);
  }
}

void check_slot(Slot slot, double value) {
  if (!std::isfinite(value) || value <= 0)
    throw bad_input(fmt::format("--{} must be above zero.", slot_word(slot)));
  if (value > 1e12) throw bad_input(fmt::format("--{} is too large to count with.", slot_word(slot)));
  if (slot == Slot::Frames && value != std::floor(value))
    throw bad_input(fmt::format("--frames must be whole, not {}.", format_number(value, 3)));
  if (slot == Slot::Fps) nearest_frame_rate(value);
  if (slot == Slot::Step && value > 1)
    throw bad_input("--step is a share of the frame's width and cannot exceed 1.",
                    "Write 0.01 for one hundredth of the width.");
}

}  // namespace askcount::plan
