// SPDX-License-Identifier: GPL-3.0-or-later
// What moves: the kinds of subjects, found by the words people use, and the habits people have for each.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/units.h"

namespace askcount::plan {

/// What is known of a kind of subject.
struct SubjectKind {
  const char* name;                ///< "plants growing"
  std::vector<const char*> words;  ///< what people call it, in the singular
  bool points_of_light = false;    ///< stars that are to stay points
  bool trails = false;             ///< stars that are to draw arcs
  bool crisp = false;              ///< looks natural with a short shutter: nothing crosses the frame
  bool at_night = false;
  bool by_water = false, by_traffic = false, by_site = false;  ///< where its cautions lie
};

/// All kinds, in the order of the table of habits.
const std::vector<SubjectKind>& subject_kinds();

/// The kinds a person's words mean, whatever their number, case and place in a sentence: those with the
/// longest phrase that is there ("rain clouds" are clouds, "star trails" no stars). Whole words only:
/// starlings are no stars.
std::vector<const SubjectKind*> kinds_of(std::string_view subject);

/// Whether some kind, or every kind of at least one, that a person's words mean has a trait.
bool any_kind(std::string_view subject, bool SubjectKind::*trait);
bool all_kinds(std::string_view subject, bool SubjectKind::*trait);

/// Whether any of the words (in the singular, lower case) stands in a text, alone or in the plural.
bool has_word(std::string_view text, std::initializer_list<const char*> words);

/// What a take already has that habits depend on.
struct HabitGround {
  Seconds shutter_s = 0;       ///< 0 where it is open
  Seconds shortest_gap_s = 1;  ///< that the camera needs between two exposures
};

/// One habit. Where methods differ there are several of one subject.
struct Habit {
  std::string subject;
  Seconds from_s = 0, to_s = 0;
  std::string reason;
};

/// The habits for what the person wrote; empty where nobody has one for it. Those for stars follow the
/// shutter: shutter plus 1 to 5 s for points, plus the shortest gap for trails.
std::vector<Habit> habits_for(std::string_view subject, const HabitGround& ground = {});

/// The middle of a habit in whole seconds, which any timer can be told; at least 1.
Seconds middle_of(const Habit& habit);

/// The whole table, for a shutter of 25 s.
std::vector<Habit> habits();

}  // namespace askcount::plan
