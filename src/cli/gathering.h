// SPDX-License-Identifier: GPL-3.0-or-later
// The frames a verb works on, as its options say them.
#pragma once

#include <memory>
#include <optional>

#include "ingest/gather.h"
#include "inspect/look.h"
#include "take/take.h"
#include "verbs.h"

namespace askcount::cli {

/// Cards, folders or films, and the take whose plan chooses among them and whose decisions are done.
struct GatheringAsked {
  std::vector<std::string> folders;
  std::string take;                      ///< a take's file; empty for none
  std::optional<int> every;              ///< of a video every nth picture
  std::optional<media::Blend> brackets;  ///< instead of what the take says
};

/// Only --every: the others are called differently from verb to verb.
void add_every(const Verb& verb, std::optional<int>& every);

/// --brackets.
void add_brackets(const Verb& verb, std::optional<media::Blend>& brackets);

/// What is to be gathered, with the take where one was named.
struct Gathering {
  std::optional<take::Take> take;
  std::filesystem::path folder;  ///< where its file lies
  ingest::Ask ask;
};
/// Throws as take::load_take() and forecast::read_films().
Gathering gathering_of(const GatheringAsked& asked);

/// Gathers it, showing how far it is.
ingest::Gathered gather_shown(const ingest::Ask& ask);

/// The look that was kept beside the take, or a new one, which is kept there.
inspect::Look look_at_frames(const ingest::Gathered& g, const std::string& take);

}  // namespace askcount::cli
