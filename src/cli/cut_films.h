// SPDX-License-Identifier: GPL-3.0-or-later
// The films that `cut` makes: what the take wishes and what was said over it, checked before a frame is read.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "film_options.h"
#include "films/finish.h"
#include "gathering.h"
#include "look/anchors.h"
#include "render/plan.h"

namespace askcount::cli {

struct CutAsked : GatheringAsked {
  FilmSaid film;
  std::vector<std::string> more;  ///< --film
  std::string look, still, glimpse;
  bool as_shot = false, force = false, estimate = false;
};

/// What is to be cut.
struct Cutting {
  Gathering gathering;
  take::Take take;  ///< the take that was named, or an empty one; as shot, without what changes its frames
  std::vector<look::Anchor> looks;  ///< of --look

  struct Film {
    FilmSaid said;
    take::FilmWish wish;
  };
  std::vector<Film> films;
};

/// Everything that can be wrong is told here. Throws as gathering_of(), media::check_coding(),
/// media::check_film_output() and look::load_looks().
Cutting cutting_of(const CutAsked& asked);

/// The order of one of its films, of the frames that were gathered.
render::FilmOrder order_of(const Cutting& cutting, const Cutting::Film& film, const CutAsked& asked,
                           const ingest::Gathered& gathered);

/// The same of --still: a film without a name, at any rate.
render::FilmOrder still_order(const Cutting& cutting, const CutAsked& asked,
                              const ingest::Gathered& gathered);

/// What is to lie beside a film.
films::BesideFilm beside_of(const Cutting::Film& film, const CutAsked& asked);

}  // namespace askcount::cli
