// SPDX-License-Identifier: GPL-3.0-or-later
// From what the person wishes to every other slot: the relations between the slots, and who gives way.
#pragma once

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "plan/slot.h"

namespace askcount::plan {

/// One slot the person has said something about. A pinned wish is insisted on; another may give way to a
/// later one.
struct Wish {
  Slot slot = Slot::Clip;
  double value = 0;
  bool pinned = false;
  bool operator==(const Wish&) const = default;
};

/// How long a shot is for a given shutter: open_factor × shutter + extra_s (brackets, pauses between
/// exposures); how many shots there are besides the frames; and how long the shutter is usually open for such
/// a subject, where it is not set.
struct ShotShape {
  double open_factor = 1;
  double extra_s = 0;
  int exposures = 1;
  long long extra_shots = 0;  ///< shots besides the film's frames: spare ones at either end
  double usual_shutter_s =
      0;  ///< taken where the shutter stays open, as far as the interval leaves room; 0 for the assumed trail
  bool operator==(const ShotShape&) const = default;
};

/// Where a slot's value comes from: nowhere, from a person, or from the relation that gave it.
enum class Relation {
  None,
  Wished,      ///< said by the person
  Assumed,     ///< a default where nothing is set
  Count,       ///< frames = ceil(clip × fps)
  SpeedUp,     ///< speed-up = interval × fps
  Field,       ///< field time = (frames − 1) × interval + shot length
  Crossing,    ///< speed-up = field crossing ÷ screen crossing
  Step,        ///< step = interval ÷ field crossing
  ScreenStep,  ///< step = 1 ÷ (screen crossing × fps)
  Trail,       ///< shutter = trail × interval
  Gap,         ///< gap = interval − shot length
  Proposed     ///< taken so that the plan is whole, see proposals_for()
};

/// Two wishes that cannot both hold. `wish` could not be kept because of `because_of`; with the others kept,
/// `wish` would have to be `would_be` (nothing where it would be open).
struct Conflict {
  Slot wish = Slot::Clip;
  std::vector<Slot> because_of;
  std::optional<double> would_be;
};

/// What follows from the wishes. A value is present where it could be worked out.
struct Solution {
  std::array<std::optional<double>, kSlots> values;
  std::array<Relation, kSlots> by{};
  std::array<double, kSlots>
      asked{};                      ///< the wish behind a value, where it had to be rounded to a whole frame
  std::vector<Slot> held;           ///< wishes that hold, in the order they were taken
  std::vector<Slot> gave_way;       ///< unpinned wishes that did not
  std::vector<Conflict> conflicts;  ///< pinned wishes that did not

  std::optional<double> operator[](Slot slot) const { return values[static_cast<size_t>(slot)]; }
  Relation relation(Slot slot) const { return by[static_cast<size_t>(slot)]; }
  /// Frames, fps, interval and shutter are all there: the take can be counted.
  bool complete() const;
};

/// The share of the interval that the shutter is assumed open: the shutter angle of 180° that cinema uses.
inline constexpr double kUsualTrail = 0.5;

/// Takes the wishes in order, first come first kept, so put first what must hold. A wish that contradicts
/// those already kept is a conflict where it is pinned and gives way where it is not. Where the shutter stays
/// open, the shape's usual shutter or a trail of `assumed_trail` is taken. An interval that follows from a
/// field time is a round one where that is within a frame of it. Field is honoured as an upper limit where
/// frames follow from it. Values differ from a wish by at most 0.5 %, a field time by at most one interval
/// (head sums). `proposals` are taken in their order for slots that stay open, as far as nothing contradicts
/// them. Throws BadInput for a value its slot cannot take (check_slot). Pure; under 0.1 ms.
Solution solve(const std::vector<Wish>& wishes, const ShotShape& shape = {},
               double assumed_trail = kUsualTrail, const std::vector<Wish>& proposals = {});

/// How slots are named in words: as options of the command ("--fps"), or as the sentence has them ("the frame
/// rate").
enum class Naming { Options, Words };

/// One line saying what is too few: what is open and which slots would close it. Empty where complete.
std::string missing_words(const Solution& solution, Naming naming = Naming::Options);

/// One line for a conflict, naming the slots and what to do.
std::string conflict_words(const Conflict& conflict, const std::vector<Wish>& wishes,
                           Naming naming = Naming::Options);

}  // namespace askcount::plan
