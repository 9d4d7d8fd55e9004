// SPDX-License-Identifier: GPL-3.0-or-later
// What there is to say about the film of a take.
#pragma once

#include <optional>

#include "media/reader.h"
#include "render/render.h"
#include "take/take.h"

namespace askcount::advice {

/// What is in a finished film (nothing where there is none), whether it still is what the take wishes of it,
/// for how many of its frames neighbours stand in, how much of frames of size `frame` (upright, {} where
/// there are none) it shows, and its frame rate. `frames` is how many it is to have; 0 where that is not
/// known.
Findings film_advice(const take::Take& take, const take::FilmWish& wish,
                     const std::optional<media::FilmFacts>& made, long long stood_in, image::Size frame,
                     size_t frames = 0);

/// What making a film has found out: how still it stands and what that cost, and frames that were made.
/// `film` is its size, `frame` that of the take's frames.
Findings outcome_advice(const render::FilmOutcome& outcome, image::Size film, image::Size frame);

/// A rate that is not the one the frames were counted for, said in both clocks; nothing where it is.
std::optional<Finding> other_rate(const take::Take& take, FrameRate fps, long long frames);

/// Where a view (the largest where there are none) has fewer of the frame's pixels than the film has; nothing
/// where it has enough.
std::optional<Finding> soft_view(const std::vector<render::ViewAnchor>& views, image::Size film,
                                 image::Size frame);

/// Frames that were never shot and are made of their neighbours; nothing where none are.
std::optional<Finding> missing_made(const render::Timeline& timeline);

}  // namespace askcount::advice
