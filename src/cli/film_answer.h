// What every verb that writes a film says about it.
#pragma once

#include <filesystem>

#include "cut/render.h"
#include "verbs.h"

namespace askcount::cli {

/// frames, duration_s, size, codec, fps, seconds_taken, unreadable, and a line for people.
Answer film_answer(const cut::CutOutcome& outcome, const std::filesystem::path& film);

/// Renders with a progress line.
cut::CutOutcome render_shown(const cut::CutOrder& order);

}  // namespace askcount::cli
