// SPDX-License-Identifier: GPL-3.0-or-later
// What is not known of the kit, asked when a take's sums need it, the weightiest first.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "forecast/kit_from.h"
#include "take/take.h"

namespace askcount::forecast {

/// One thing that is not known.
struct KitQuestion {
  std::string key;             ///< as the kit format has it: "writing_s", "buffer_mb", "rated_shots" …
  std::string ask;             ///< "How long is the camera busy after a shot?"
  std::string where;           ///< how to find it out
  std::string taken;           ///< what is taken until then
  std::string matters;         ///< what the answer changes in this take
  std::string unit;            ///< of the answer: "s", "MB", "frames"
  double value = 0;            ///< what is taken until then
  double least = 0, most = 0;  ///< between which such things usually are
  long long frames_apart = 0;  ///< that a usual little and a usual much of it differ by in this take
};

/// The questions whose answers change how many frames of this take come, those that change the most first.
/// What every usual value leaves as it is is not asked. Empty where the kit is not the person's or the wishes
/// are too few.
std::vector<KitQuestion> kit_questions(const take::Take& take);

/// The take with an answer in its kit: `key` as kit_questions() has it. Throws BadInput for a key there is no
/// question of and a value out of its range.
take::Take answered(take::Take take, const std::string& key, double value);

/// A kit for a take whose own is not set: nothing in it but what the photographs tell and a usual body.
plan::Kit usual_kit();

/// The take with what photographs tell of its kit put in front; see kit_from(). What they told, and what is
/// still taken, in `told` where it is not null. Throws as kit_from().
take::Take with_photographs(take::Take take, const std::vector<std::filesystem::path>& photographs,
                            ToldByPhotographs* told = nullptr);

}  // namespace askcount::forecast
