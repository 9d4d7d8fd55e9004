// SPDX-License-Identifier: GPL-3.0-or-later
// What was measured of every frame, kept beside the take so that opening it again costs nothing.
#pragma once

#include <filesystem>
#include <optional>

#include "inspect/measures.h"
#include "media/frame.h"

namespace askcount::inspect {

/// Where a take's measures are kept: "boats.askcount" has "boats.frames" beside it, an SQLite database with
/// one table: frame, file, bytes, changed (nanoseconds), measures.
std::filesystem::path store_of(const std::filesystem::path& take_file);

/// The look that was kept of exactly these frames: same files in the same order, none of another length or
/// time of change. Nothing where there is none, or where the file is damaged or of another version. Throws
/// nothing.
std::optional<Look> kept_look(const std::filesystem::path& store, const media::Frames& frames);

/// Keeps a look in place of what was kept; the database is made where it is missing. Throws BadInput where a
/// file of another kind is there, Failed where it cannot be written; both name it.
void keep_look(const std::filesystem::path& store, const media::Frames& frames, const Look& look);

}  // namespace askcount::inspect
