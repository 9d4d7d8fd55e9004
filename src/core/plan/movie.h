// SPDX-License-Identifier: GPL-3.0-or-later
// A camera's own time-lapse movie: what its menu is told, and what it then shows.
#pragma once

#include "plan/kit.h"
#include "plan/sums.h"

namespace askcount::plan {

/// The lines of a movie menu for a take.
struct MovieMenu {
  double fps = 25;         ///< of the movie, whatever the film's rate is
  bool by_time = false;    ///< it is told a shooting time in whole minutes; otherwise a count
  Seconds shooting_s = 0;  ///< that time; of a count shots × interval
  long long shots = 0;     ///< it makes so many pictures: at least those of the take
  double movie_s = 0;      ///< it plays so long
  double shown_s = 0;      ///< its length as the menu shows it, in whole seconds
  bool operator==(const MovieMenu&) const = default;
};

/// A shooting time is the take's rounded up to the minute, so that no shot is missing.
MovieMenu movie_menu(const Sums& sums, const Body& body);

/// Size of one picture of such a movie in MB, about: it is coded about as the body's video of 25 pictures a
/// second is.
double movie_picture_mb(const Body& body);

}  // namespace askcount::plan
