// SPDX-License-Identifier: GPL-3.0-or-later
// Trial films as one film file: one alone, or two side by side.
#pragma once

#include <filesystem>

#include "base/output.h"
#include "base/progress.h"
#include "media/reader.h"
#include "simulate/trial_film.h"

namespace askcount::simulate {

/// Writes a trial film, whole or not at all, at its true rate; with `beside` a second one to its right, each
/// going at its own rate by the clock (the film has the first one's rate, and lasts as long as the longer:
/// the shorter one's last frame stands). Throws BadInput for a file that may not be written, Cancelled, and
/// as media::Encoder. Returns what is in the file.
media::FilmFacts write_reel(const TrialFilm& film, const TrialFilm* beside,
                            const std::filesystem::path& output, const Guard& guard, const Work& work);

}  // namespace askcount::simulate
