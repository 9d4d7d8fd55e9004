// SPDX-License-Identifier: GPL-3.0-or-later
// The options that say how a film is to be: changes to what the take wishes of it.
#pragma once

#include <functional>
#include <set>
#include <string>
#include <vector>

#include "take/film_wish.h"
#include "verbs.h"

namespace askcount::cli {

/// What was said of one film.
struct FilmSaid {
  std::string output;                                         ///< the film to write
  std::string poster, place;                                  ///< FILE[@S]; a place for its metadata
  std::set<std::string> said;                                 ///< options that were used
  std::vector<std::function<void(take::FilmWish&)>> changes;  ///< in the order of the options

  void change(const char* option, std::function<void(take::FilmWish&)> how);
  /// The wish with all of it put over. A name that cannot hold the wish's codec chooses its own. Throws
  /// BadInput naming the option.
  take::FilmWish over(take::FilmWish wish) const;
};

/// Adds all of them but the output.
void add_film_options(const Verb& verb, FilmSaid& said);

/// Another film, "NAME=OPTIONS": a copy of `like` with those options over it and NAME as its output. Throws
/// BadInput.
FilmSaid other_film(const std::string& text, const FilmSaid& like);

/// "FILE@SECONDS" taken apart; 0 where no time is said.
std::pair<std::string, double> file_at(const std::string& text, const char* option);

}  // namespace askcount::cli
