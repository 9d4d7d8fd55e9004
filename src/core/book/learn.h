// SPDX-License-Identifier: GPL-3.0-or-later
// What the book learns of a take: from its plan, its journal, its frames, their light and its films.
#pragma once

#include <filesystem>
#include <optional>
#include <vector>

#include "book/entry.h"
#include "ingest/gather.h"
#include "inspect/faults.h"
#include "level/brightness.h"
#include "render/check.h"
#include "render/render.h"
#include "take/take.h"

namespace askcount::book {

/// A take's entry as far as its own file and the journal of its newest shoot beside it go; and what was said
/// of it where it was packed (NAME.book). `file` may be relative. Throws nothing but std::bad_alloc.
Entry entry_of(const take::Take& take, const std::filesystem::path& file);

/// An entry of frames that were shot without a plan: beat, exposures, camera, clock and place by their own
/// metadata. `folder` gives its name.
Entry entry_of(const ingest::FoundTake& found, const std::filesystem::path& folder);

/// Puts in what the frames say: how many came, the beat, and what the kit did. `take` as for entry_of(); a
/// take nobody planned is one that says nothing.
void learn(Entry& entry, const take::Take& take, const ingest::FoundTake& found);
/// What a look at every frame found.
void learn(Entry& entry, const std::vector<inspect::Fault>& faults);
/// Their light.
void learn(Entry& entry, const level::Evenness& evenness);
/// A film that was made at that moment, and what it was found to be: where it was levelled, the flicker that
/// is left in it.
void learn(Entry& entry, const std::filesystem::path& film, const render::FilmOutcome& outcome,
           const render::FilmCheck& check, Instant made);

/// A picture made so small that it lies within a size, its shape kept; smaller ones stay as they are.
image::Coded8 shrunk(const image::Coded8& picture, image::Size within);

/// A small picture of the take, 216 × 144 at most, JPEG: of the frame in its middle, by its thumbnail where
/// it has one. Empty where no frame can be read.
std::string picture_of(const media::Frames& frames);

}  // namespace askcount::book
