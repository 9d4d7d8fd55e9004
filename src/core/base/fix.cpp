// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/fix.h"

#include <cmath>
#include <nlohmann/json.hpp>

#include "base/dials.h"
#include "base/error.h"
#include "base/fields.h"
#include "base/language.h"
#include "base/units.h"

namespace askcount {
namespace fix {
namespace {

constexpr double kMost = 1e12;
constexpr std::initializer_list<std::pair<Learn::What, const char*>> kLearnt = {
    {Learn::What::BatteryShots, "battery_shots"}, {Learn::What::BatteryHours, "battery_hours"},
    {Learn::What::Writing, "writing_s"},          {Learn::What::CardRate, "card_mb_s"},
    {Learn::What::Turning, "turning_s"},          {Learn::What::CountsGap, "counts_gap"}};

void visit(Fields& f, Slot& slot) {
  std::string word = slot_word(slot);
  f.words("slot", word);
  if (!f.reading()) return;
  const auto known = slot_of_word(word);
  if (!known) throw bad_input(say("There is no slot called \"{}\".", word));
  slot = *known;
}

// The fields of each, for writing and for reading.
void visit(Fields& f, SetSlot& m) {
  visit(f, m.slot);
  f.number("value", m.value, 0, kMost);
}
void visit(Fields& f, Release& m) {
  visit(f, m.slot);
}
void visit(Fields& f, StartAt& m) {
  f.words("zone", m.zone);
  f.moment("at", m.at, m.zone);
}
void visit(Fields& f, AimAt& m) {
  f.number("bearing_deg", m.bearing_deg, 0, 360);
  f.number("tilt_deg", m.tilt_deg, -90, 90);
}
void visit(Fields& f, SetSubject& m) {
  f.name("words", m.words);
  f.number("interval_s", m.interval_s, 0, kMost);
}
void visit(Fields&, RunEndless&) {}
void visit(Fields& f, UseTimer& m) {
  f.name("name", m.name);
}
void visit(Fields&, LetCameraExpose&) {}
void visit(Fields& f, TurnEvery& m) {
  f.number("frames", m.frames, 1, kMost);
}
void visit(Fields& f, AllowIso& m) {
  f.number("iso", m.iso, 1, kMost);
}
void visit(Fields&, RedoClicks&) {}
template <typename OfFrame>
void visit_frame(Fields& f, OfFrame& m) {
  f.name("file", m.file);
  f.flag("on", m.on);
}
void visit(Fields& f, LeaveOut& m) {
  visit_frame(f, m);
}
void visit(Fields& f, Keep& m) {
  visit_frame(f, m);
}
void visit(Fields& f, StandIn& m) {
  visit_frame(f, m);
}
void visit(Fields& f, CallFine& m) {
  visit_frame(f, m);
}
void visit(Fields& f, BeginAt& m) {
  f.words("file", m.file);
}
void visit(Fields& f, EndAt& m) {
  f.words("file", m.file);
}
void visit(Fields& f, ChooseTake& m) {
  f.number("number", m.number, 0, kMost);
}
void visit(Fields& f, JoinTakes& m) {
  f.number("first", m.first, 1, kMost);
  f.number("second", m.second, 1, kMost);
}
void visit(Fields& f, SetClock& m) {
  f.number("seconds", m.seconds, -kMost, kMost);
}
void visit(Fields& f, UseSource& m) {
  f.name("path", m.path);
}
void visit(Fields& f, TakeEvery& m) {
  f.number("pictures", m.pictures, 0, kMost);
}
void visit(Fields& f, SmoothChange& m) {
  f.number("frame", m.frame, 1, kMost);
  f.flag("on", m.on);
}
void visit(Fields& f, KeepChange& m) {
  f.number("frame", m.frame, 1, kMost);
  f.flag("on", m.on);
}
void visit(Fields& f, UndoLens& m) {
  f.flag("on", m.on);
}
void visit(Fields& f, Learn& m) {
  f.choice("what", m.what, kLearnt);
  f.number("value", m.value, 0, kMost);
  f.words("name", m.name);
  f.number("takes", m.takes, 0, kMost);
}
void visit(Fields& f, Remind& m) {
  f.name("mistake", m.mistake);
  f.number("takes", m.takes, 0, kMost);
}

// What the button of each says.
std::string words(const SetSlot& m) {
  switch (m.slot) {
    case Slot::Gap:
      return say("Leave a gap of {}", format_length(m.value));
    case Slot::ScreenCrossing:
      return say("Cross in {}", format_length(m.value));
    case Slot::Trail:
      return say("Use {}", format_trail(m.value));
    case Slot::Shutter:
      return say("Use {}", format_shutter(m.value));
    case Slot::Frames:
      return say("Use {}", counted(std::llround(m.value), "{} frame", "{} frames"));
    case Slot::Fps:
      return say("Use {} fps", format_number(m.value, 3));
    case Slot::FieldCrossing:
      return say("Use {}", format_length(m.value, 1));
    case Slot::Step:
    case Slot::SpeedUp:
      return say("Use {}", format_number(m.value, 3));
    default:
      return say("Use {}", format_length(m.value));
  }
}
std::string words(const Release& m) {
  return say("Release {}", slot_name(m.slot));
}
std::string words(const StartAt& m) {
  return say("Start at {}", format_clock(m.at, m.zone));
}
std::string words(const AimAt& m) {
  return say("Aim at {}°, {}° up", format_number(m.bearing_deg, 0), format_number(m.tilt_deg, 0));
}
std::string words(const SetSubject& m) {
  return say("It is {}", m.words);
}
std::string words(const RunEndless&) {
  return say("Set it to endless");
}
std::string words(const UseTimer& m) {
  return say("Use {}", m.name);
}
std::string words(const LetCameraExpose&) {
  return say("Let the camera do it");
}
std::string words(const TurnEvery& m) {
  return say("Allow {}", counted(m.frames, "{} frame", "{} frames"));
}
std::string words(const AllowIso& m) {
  return say("Allow ISO {}", format_count(std::llround(marked_iso(m.iso))));
}
std::string words(const RedoClicks&) {
  return say("Recalculate the clicks");
}
std::string words(const LeaveOut& m) {
  return m.on ? say("Leave it out") : say("Put it back");
}
std::string words(const Keep& m) {
  return m.on ? say("Keep it") : say("Let it go");
}
std::string words(const StandIn& m) {
  return m.on ? say("Neighbours stand in") : say("Show it again");
}
std::string words(const CallFine& m) {
  return m.on ? say("It is fine") : say("Judge it again");
}
std::string words(const BeginAt&) {
  return say("Begin the take here");
}
std::string words(const EndAt&) {
  return say("End the take before");
}
std::string words(const ChooseTake& m) {
  return say("Use take {}", m.number);
}
std::string words(const JoinTakes&) {
  return say("Join it to this one");
}
std::string words(const SetClock&) {
  return say("Correct its times");
}
std::string words(const UseSource&) {
  return say("Use its pictures");
}
std::string words(const TakeEvery& m) {
  return say("Use one picture in {}", m.pictures);
}
std::string words(const SmoothChange& m) {
  return m.on ? say("Smooth it too") : say("Keep it");
}
std::string words(const KeepChange& m) {
  return m.on ? say("Keep it") : say("Smooth it too");
}
std::string words(const UndoLens& m) {
  return m.on ? say("Undo it") : say("Leave it as it is");
}
std::string words(const Learn& m) {
  if (m.what == Learn::What::CountsGap)
    return m.value > 0 ? say("This timer counts the gap") : say("This timer counts the interval");
  return m.what == Learn::What::Turning ? say("Keep that much free") : say("Plan with it");
}
std::string words(const Remind& m) {
  return m.takes > 0 ? say("Put it on the checklist") : say("Take it off the checklist");
}

/// The first that has the word, read from its fields.
template <size_t N = 0>
Fix read(const std::string& word, Fields& fields) {
  if constexpr (N == std::variant_size_v<Fix>) {
    throw bad_input(say("There is no fix called \"{}\".", word));
  } else {
    using One = std::variant_alternative_t<N, Fix>;
    if (word != One::kWord) return read<N + 1>(word, fields);
    One one;
    visit(fields, one);
    return one;
  }
}

}  // namespace
}  // namespace fix

std::string words(const Fix& fix) {
  return std::visit([](const auto& one) { return fix::words(one); }, fix);
}

Json to_json(const Fix& fix) {
  Json json = Json::object();
  std::visit(
      [&](auto one) {
        json["do"] = one.kWord;
        Fields fields(json);
        fix::visit(fields, one);
      },
      fix);
  return json;
}

Fix fix_of_json(const Json& json, const std::string& document) {
  Fields fields(json, document);
  std::string word;
  fields.name("do", word);
  return fix::read(word, fields);
}

}  // namespace askcount
