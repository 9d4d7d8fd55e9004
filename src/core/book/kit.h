// SPDX-License-Identifier: GPL-3.0-or-later
// What the kit really does, by all takes in the book.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/finding.h"
#include "book/book.h"
#include "plan/kit.h"

namespace askcount::book {

/// One thing the kit does. Values of a take come first (its own middle one), then the middle one of the
/// takes.
struct KitFact {
  std::string what;  ///< "battery", "battery hours", "writing", "buffer", "card", "drift", "dials", "late
                     ///< clicks", "releases", "dew"
  std::string gear;  ///< its name; empty for a hand or the weather
  double value = 0;
  std::string unit;  ///< "frames", "h", "s", "MB", "MB/s", "s/h", "releases", "takes"
  Measure::Bound bound = Measure::Bound::Exact;
  long long takes = 0;             ///< that say so
  double lowest = 0, highest = 0;  ///< of them
  double planned = 0;              ///< what plans had in its place; 0 for nothing
  double of = 0;                   ///< of late clicks all clicks, of dew all takes with such air; otherwise 0
  std::optional<double> at_c;      ///< batteries: the middle temperature
  std::optional<double> rated;  ///< batteries: the same brought to the temperature that the kit rates it at
  double humidity = 0;          ///< dew: from this share on
  bool simulated = false;       ///< only takes of the stand-in say so: none of the person's
};

/// Takes of the stand-in count only where there are none of the person's, and never for batteries: those end
/// when they were told to. Batteries by name and by ten degrees; the body's writing and buffer, cards,
/// timers; of hands and dew one each. `kit` is what batteries are rated by. What says at least (or at most)
/// something counts only where nothing says it exactly, and only where it is more (or less) than was planned:
/// the most (the least) of them.
std::vector<KitFact> kit_facts(const std::vector<TakeMeasure>& measures, const plan::Kit& kit);

/// The same for people, each with the press that brings it into the take's kit where it is another number
/// than is there: "Battery A: 702 frames at 11 °C", "In 3 takes, 690 to 715, against 560 estimated."
Findings judge(const std::vector<KitFact>& facts, const plan::Kit& kit, double turning_s);

/// What went wrong in two takes or more, the most frequent first, with the press that puts it on the
/// checklist; `again` is what is on it.
Findings judge_mistakes(const std::map<std::string, long long>& mistakes,
                        const std::map<std::string, long long>& again);

/// Practice with each timer and of dusks: the best, and how it went from the first to the last.
Findings judge_practice(const std::vector<Score>& scores);

/// One as `askcount book kit --json` says it: what, gear, value, unit, takes, spread, lowest, highest,
/// planned, bound, at_c.
Json answer_json(const KitFact& fact);

}  // namespace askcount::book
