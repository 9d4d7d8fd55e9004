// SPDX-License-Identifier: GPL-3.0-or-later
// What every verb that writes a film says about it.
#pragma once

#include <filesystem>

#include "render/render.h"
#include "verbs.h"

namespace askcount::cli {

/// frames, duration_s, size, codec, fps, seconds_taken, unreadable, and a line for people.
Answer film_answer(const render::FilmOutcome& outcome, const std::filesystem::path& film);

/// Renders what `source` reads of the frames, with a progress line.
render::FilmOutcome render_shown(const media::Frames& frames, const render::FilmOrder& order,
                                 const media::FrameSource& source);

}  // namespace askcount::cli
