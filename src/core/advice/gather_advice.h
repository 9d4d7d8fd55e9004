// SPDX-License-Identifier: GPL-3.0-or-later
// What there is to say about the frames that were gathered for a take.
#pragma once

#include <string>

#include "ingest/gather.h"
#include "inspect/faults.h"
#include "take/take.h"

namespace askcount::advice {

/// What the gathering found, and whether as many frames are there as were planned.
Findings gather_advice(const take::Take& take, const ingest::Gathered& gathered);

/// The same with what a look at every frame found. `began` is when the journal says the first shot was.
Findings gather_advice(const take::Take& take, const ingest::Gathered& gathered, const inspect::Look& look,
                       const std::vector<inspect::Fault>& faults, const std::optional<Instant>& began = {});

/// Without the faults of frames that the person has found fine, that are set aside, or that were left out.
std::vector<inspect::Fault> open_faults(const take::Take& take, const ingest::Gathered& gathered,
                                        const std::vector<inspect::Fault>& faults);

/// When the first shot was by the journal beside a take; nothing where there is none, or where it is of the
/// stand-in, whose hours are not the wall's.
std::optional<Instant> began_by_journal(const std::filesystem::path& take_file);

/// Where the frames that were gathered are not those of the plan (anymore): "shot 250 frames every 20 s, the
/// plan now has 300 every 10 s". Empty where they are: up to 2 % in count and interval.
std::string plan_differs_words(const plan::Sums& sums, const ingest::Gathered& gathered);

}  // namespace askcount::advice
