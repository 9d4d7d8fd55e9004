// SPDX-License-Identifier: GPL-3.0-or-later
// What one press on a finding changes in a take. Each change is a small value with its own JSON and its own
// words; take/fix.h carries it out. A new one is a struct here, a line in Fix, its words() and visit() in
// fix.cpp, and its apply() in take/fix.cpp: the compiler asks for each.
#pragma once

#include <string>
#include <variant>

#include "base/instant.h"
#include "base/json.h"
#include "base/slot.h"

namespace askcount {

namespace fix {

/// A slot of the sentence is said to be this, in its own unit.
struct SetSlot {
  static constexpr const char* kWord = "set";
  Slot slot = Slot::Interval;
  double value = 0;
  bool operator==(const SetSlot&) const = default;
};
/// What was said of a slot is taken back.
struct Release {
  static constexpr const char* kWord = "release";
  Slot slot = Slot::Interval;
  bool operator==(const Release&) const = default;
};

/// The first shot is at another moment.
struct StartAt {
  static constexpr const char* kWord = "start_at";
  Instant at;
  std::string zone = "UTC";  ///< by whose clock it is told
  bool operator==(const StartAt&) const = default;
};
/// The camera looks there, from the first shot to the last.
struct AimAt {
  static constexpr const char* kWord = "aim_at";
  double bearing_deg = 0, tilt_deg = 0;
  bool operator==(const AimAt&) const = default;
};
/// What moves, in words, and the interval that is usual for it (0 leaves it).
struct SetSubject {
  static constexpr const char* kWord = "set_subject";
  std::string words;
  double interval_s = 0;
  bool operator==(const SetSubject&) const = default;
};

/// The timer runs until it is stopped by hand.
struct RunEndless {
  static constexpr const char* kWord = "run_endless";
  bool operator==(const RunEndless&) const = default;
};
/// Another timer of the kit, by its name.
struct UseTimer {
  static constexpr const char* kWord = "use_timer";
  std::string name;
  bool operator==(const UseTimer&) const = default;
};

/// The camera follows the light by aperture priority.
struct LetCameraExpose {
  static constexpr const char* kWord = "let_camera_expose";
  bool operator==(const LetCameraExpose&) const = default;
};
/// This many frames at least between two clicks.
struct TurnEvery {
  static constexpr const char* kWord = "turn_every";
  long long frames = 1;
  bool operator==(const TurnEvery&) const = default;
};
/// The highest ISO that the ramp may use.
struct AllowIso {
  static constexpr const char* kWord = "allow_iso";
  double iso = 100;
  bool operator==(const AllowIso&) const = default;
};
/// Clicks that were moved by hand are worked out anew.
struct RedoClicks {
  static constexpr const char* kWord = "redo_clicks";
  bool operator==(const RedoClicks&) const = default;
};

// Of one frame, by its file's name. Where `on` is false it is taken back.
struct LeaveOut {
  static constexpr const char* kWord = "leave_out";
  std::string file;
  bool on = true;
  bool operator==(const LeaveOut&) const = default;
};
struct Keep {
  static constexpr const char* kWord = "keep";
  std::string file;
  bool on = true;
  bool operator==(const Keep&) const = default;
};
/// Its neighbours stand in for it.
struct StandIn {
  static constexpr const char* kWord = "stand_in";
  std::string file;
  bool on = true;
  bool operator==(const StandIn&) const = default;
};
/// Its faults are none.
struct CallFine {
  static constexpr const char* kWord = "call_fine";
  std::string file;
  bool on = true;
  bool operator==(const CallFine&) const = default;
};
/// It is the first, or the last, of the take; an empty name for the one that was found.
struct BeginAt {
  static constexpr const char* kWord = "begin_at";
  std::string file;
  bool operator==(const BeginAt&) const = default;
};
struct EndAt {
  static constexpr const char* kWord = "end_at";
  std::string file;
  bool operator==(const EndAt&) const = default;
};

/// Which take of a card, counted from 1; 0 for the one that fits the plan.
struct ChooseTake {
  static constexpr const char* kWord = "choose_take";
  long long number = 0;
  bool operator==(const ChooseTake&) const = default;
};
/// Two takes of a card are one, after those that are one already.
struct JoinTakes {
  static constexpr const char* kWord = "join_takes";
  long long first = 1, second = 2;
  bool operator==(const JoinTakes&) const = default;
};
/// Seconds added to the camera's clock.
struct SetClock {
  static constexpr const char* kWord = "set_clock";
  double seconds = 0;
  bool operator==(const SetClock&) const = default;
};
/// The frames come from another folder or film: nothing is decided about them.
struct UseSource {
  static constexpr const char* kWord = "use_source";
  std::string path;
  bool operator==(const UseSource&) const = default;
};
/// One frame of this many pictures of a film; 0 for what the plan's interval has.
struct TakeEvery {
  static constexpr const char* kWord = "take_every";
  long long pictures = 0;
  bool operator==(const TakeEvery&) const = default;
};

// Of a change of light at a frame, counted from 1. Where `on` is false it is taken back.
struct SmoothChange {
  static constexpr const char* kWord = "smooth_change";
  long long frame = 1;
  bool on = true;
  bool operator==(const SmoothChange&) const = default;
};
struct KeepChange {
  static constexpr const char* kWord = "keep_change";
  long long frame = 1;
  bool on = true;
  bool operator==(const KeepChange&) const = default;
};
/// What the lens did is undone by its record.
struct UndoLens {
  static constexpr const char* kWord = "undo_lens";
  bool on = true;
  bool operator==(const UndoLens&) const = default;
};

/// What the person's own takes say of the kit, and how many of them. Units: shots, hours, seconds, MB a
/// second, seconds; of a timer 1 where it counts the gap and 0 where it counts the interval.
struct Learn {
  static constexpr const char* kWord = "learn";
  enum class What { BatteryShots, BatteryHours, Writing, CardRate, Turning, CountsGap };
  What what = What::BatteryShots;
  double value = 0;
  std::string name;  ///< of the thing in the kit; empty for Turning
  long long takes = 0;
  bool operator==(const Learn&) const = default;
};
/// A mistake, by its code, goes onto the checklist; how many takes had it. With 0 it goes off again.
struct Remind {
  static constexpr const char* kWord = "remind";
  std::string mistake;
  long long takes = 0;
  bool operator==(const Remind&) const = default;
};

}  // namespace fix

using Fix =
    std::variant<fix::SetSlot, fix::Release, fix::StartAt, fix::AimAt, fix::SetSubject, fix::RunEndless,
                 fix::UseTimer, fix::LetCameraExpose, fix::TurnEvery, fix::AllowIso, fix::RedoClicks,
                 fix::LeaveOut, fix::Keep, fix::StandIn, fix::CallFine, fix::BeginAt, fix::EndAt,
                 fix::ChooseTake, fix::JoinTakes, fix::SetClock, fix::UseSource, fix::TakeEvery,
                 fix::SmoothChange, fix::KeepChange, fix::UndoLens, fix::Learn, fix::Remind>;

/// What its button says, in the language spoken: "Use 5 s", "Leave it out".
std::string words(const Fix& fix);

/// {"do": "set", "slot": "interval", "value": 5}.
Json to_json(const Fix& fix);
/// The other way about. Throws BadInput naming `document` and what is wrong in it.
Fix fix_of_json(const Json& json, const std::string& document);

}  // namespace askcount
