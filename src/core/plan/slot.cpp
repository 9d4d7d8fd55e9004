// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/slot.h"

#include <fmt/format.h>

#include <cmath>

#include "base/error.h"
#include "base/frame_rate.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount::plan {
namespace {

std::string frames_words(long long n) {
  return counted(n, "{} frame", "{} frames");
}
std::string times_words(const std::string& number, bool once) {
  return once ? say("{} time", number) : say("{} times", number);
}

/// What stands behind the number of a text: "frames" of "12 frames".
std::string unit_of(const std::string& words) {
  const size_t at = words.find_first_not_of("0123456789., ");
  return at == std::string::npos ? words : words.substr(at);
}

/// The trails that have words of their own, in English and in the language spoken.
std::optional<double> usual_trail(const std::string& text) {
  static constexpr std::pair<const char*, double> kEnglish[] = {
      {"half", 0.5}, {"a quarter", 0.25}, {"a whole", 1}};
  for (const auto& [words, trail] : kEnglish)
    if (text.starts_with(words) || text == format_trail(trail)) return trail;
  return {};
}

}  // namespace

double parse_slot(Slot slot, std::string_view text) {
  const Called name = slot;
  std::string clean(text);
  const auto drop_words = [&clean](std::initializer_list<std::string> words) {
    for (const std::string& word : words)
      if (const auto at = clean.find(word); at != std::string::npos) clean.erase(at);
  };
  double value = 0;
  switch (slot) {
    case Slot::Fps:
      value = parse_frame_rate(text, name).value();
      break;
    case Slot::Frames:
      drop_words({unit_of(frames_words(2)), unit_of(frames_words(1)), "frame"});
      value = static_cast<double>(parse_count(clean, name));
      break;
    case Slot::SpeedUp:
      drop_words({unit_of(times_words("2", false)), unit_of(times_words("1", true)), "time"});
      clean.erase(clean.find_last_not_of(' ') + 1);
      value = parse_positive(clean, name);
      break;
    case Slot::Step:
    case Slot::Trail:
      if (const auto usual = usual_trail(clean)) {
        value = *usual;
        break;
      }
      drop_words({unit_of(format_trail(0.8)), "of a step"});
      if (!clean.empty() && clean.back() == '%')
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
      return frames_words(std::llround(value));
    case Slot::SpeedUp:
      return times_words(
          value < 1000 ? format_number(value, value < 10 ? 1 : 0) : format_count(std::llround(value)),
          value == 1);
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
  if (!std::isfinite(value) || value <= 0) throw bad_value(slot, say("must be above zero."));
  if (value > 1e12) throw bad_value(slot, say("is too large to count with."));
  if (slot == Slot::Frames && value != std::floor(value))
    throw bad_value(slot, say("must be whole, not {}.", format_number(value, 3)));
  if (slot == Slot::Fps) nearest_frame_rate(value);
  if (slot == Slot::Step && value > 1)
    throw bad_value(slot, say("is a share of the frame's width and cannot exceed 1."),
                    say("Write 0.01 for one hundredth of the width."));
}

}  // namespace askcount::plan
