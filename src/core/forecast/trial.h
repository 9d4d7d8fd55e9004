// SPDX-License-Identifier: GPL-3.0-or-later
// The trial film of a take: in which scene, how fast, in which light.
#pragma once

#include "simulate/trial_film.h"
#include "take/take.h"

namespace askcount::forecast {

/// The scene a take is simulated in: the one that was said, else the one nearest to what moves (stars, people
/// and traffic, what grows), and the harbour for everything else under the sky.
std::string scene_for(const take::Take& take);

/// How many times as fast as by itself what crosses that scene does so, for the crossing that was said; 1
/// where none was.
double haste_of(const take::Take& take);

/// What a trial film of a take is shot from: its interval, shutters, head, method, and the light of its place
/// and date. Where the subject's crossing was said the scene moves at that pace. Throws BadInput where the
/// wishes are too few.
simulate::TrialPlan trial_of(const take::Take& take);

/// "the clouds over Tern Quay, across the frame in 8 min": what is seen and at which pace.
std::string trial_words(const take::Take& take, const simulate::TrialPlan& plan);

}  // namespace askcount::forecast
