// SPDX-License-Identifier: GPL-3.0-or-later
// The options that say how a film is to be, for the verbs that make some.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "take/film_wish.h"
#include "verbs.h"

namespace askcount::cli {

/// What was asked of one film; what was not said is as the take wishes.
struct FilmAsked {
  std::string output;
  image::Size size;  ///< 0 × 0 where nobody said
  std::string fps, preset;
  std::optional<int> quality, bits, from, to, every;
  std::optional<media::Chroma> chroma;
  std::optional<media::Codec> codec;
  std::optional<media::Purpose> purpose;
  std::vector<std::string> speed, view;
  bool backwards = false, to_and_fro = false, crisp = false, title = false, report = false, chapters = false,
       leave_gaps = false;
  std::optional<double> hold_first, hold_last;
  std::optional<render::Between> between;
  std::string trails, still, poster, glimpse, sound, fade, text, scale, words, place, author;
  std::optional<int> trail;
  std::optional<motion::Mode> steady;
  std::vector<std::string> clock;
};

/// Adds all of them but the output.
void add_film_options(const Verb& verb, FilmAsked& asked);

/// The wish with what was asked put over it. Throws BadInput naming the option.
take::FilmWish wish_of(const FilmAsked& asked, take::FilmWish wish);

/// Another film, "NAME=OPTIONS": a copy of `asked` with those options over it and NAME as its output. Throws
/// BadInput.
FilmAsked other_film(const std::string& text, const FilmAsked& asked);

/// "FILE@SECONDS" taken apart; 0 where no time is said.
std::pair<std::string, double> file_at(const std::string& text, const char* option);

}  // namespace askcount::cli
