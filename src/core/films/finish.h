// SPDX-License-Identifier: GPL-3.0-or-later
// A film once it is made: looked at from its first frame to its last, with what lies beside it.
#pragma once

#include <filesystem>

#include "base/finding.h"
#include "base/json.h"
#include "render/check.h"
#include "render/render.h"
#include "take/film_wish.h"

namespace askcount::films {

/// What a film was found to be.
struct Finished {
  render::FilmCheck check;
  Findings findings;             ///< what is not as it was ordered
  std::filesystem::path poster;  ///< that was written; empty for none
  std::filesystem::path report;  ///< the same
};

/// What is to lie beside a film.
struct BesideFilm {
  std::filesystem::path poster;  ///< .png, .tif or .jpg; empty for none
  double poster_s = 0;           ///< the moment of the film it shows
  bool report = false;           ///< NAME.mp4.json
  Findings about;                ///< what else is to be known of the film: that its take ended early
  Guard guard;
};

/// What the take wishes beside one of its films: "NAME poster.jpg" (or "poster 2", where that is there), and
/// a report.
BesideFilm beside_film(const take::FilmWish& wish, const std::filesystem::path& film);

/// What can be known to be wrong with it before the film is made. Throws BadInput where the poster's moment
/// is after the film's end, and as check_output().
void check_beside(const BesideFilm& beside, const render::FilmOrder& order, size_t take_frames);

/// Decodes a film that was made by an order and writes what is to lie beside it. Throws as
/// render::check_film(), BadInput where the poster's moment is after the end or a name is no picture's, and
/// as write_file_atomically().
Finished finish_film(const render::FilmOrder& order, size_t take_frames, const render::FilmOutcome& outcome,
                     const BesideFilm& beside, const Work& work = {});

/// frames, duration_s, size, codec, fps, seconds_taken, made and what else its making found out.
Json film_json(const render::FilmOutcome& outcome, const std::filesystem::path& film);
/// The same with what it was found to be when it was opened again: the report.
Json film_json(const render::FilmOutcome& outcome, const std::filesystem::path& film,
               const Finished& finished);

}  // namespace askcount::films
