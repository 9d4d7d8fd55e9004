// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/movie.h"

#include <cmath>

#include "plan/budgets.h"

namespace askcount::plan {

MovieMenu movie_menu(const Sums& sums, const Body& body) {
  MovieMenu menu;
  menu.fps = body.movie_fps;
  menu.by_time = body.movie_by_time;
  menu.shots = shots_of(sums);
  menu.shooting_s = static_cast<double>(menu.shots) * sums.interval_s;
  if (menu.by_time) {
    menu.shooting_s = std::ceil(menu.shooting_s / 60 - 1e-9) * 60;
    menu.shots = static_cast<long long>(std::floor(menu.shooting_s / sums.interval_s + 1e-9));
  }
  menu.movie_s = static_cast<double>(menu.shots) / menu.fps;
  menu.shown_s = std::floor(menu.movie_s + 1e-9);
  return menu;
}

double movie_picture_mb(const Body& body) {
  constexpr double kVideo_fps = 25;
  return body.video_mbit_s / 8 / kVideo_fps;
}

}  // namespace askcount::plan
