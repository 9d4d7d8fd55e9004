// SPDX-License-Identifier: GPL-3.0-or-later
// The trial film of a take: in which scene, how fast, in which light.
#pragma once

#include "simulate/trial_film.h"
#include "take/take.h"

namespace askcount::forecast {

/// The scene that is nearest to what moves: stars, people and traffic, what grows, and the harbour for
/// everything under the sky. Words nobody knows get the stand-in's scene.
std::string scene_for(const take::Take& take);

/// What a trial film of a take is shot from: its interval, shutters, head, method, and the light of its place
/// and date. Where the subject's crossing was said the scene moves at that pace. Throws BadInput where the
/// wishes are too few.
simulate::TrialPlan trial_of(const take::Take& take);

/// "the clouds over Tern Quay, across the frame in 8 min": what is seen and at which pace.
std::string trial_words(const take::Take& take, const simulate::TrialPlan& plan);

}  // namespace askcount::forecast
