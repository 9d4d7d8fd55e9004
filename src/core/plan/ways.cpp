// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/ways.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "plan/budgets.h"
#include "plan/movie.h"

namespace askcount::plan {
namespace {

/// What the camera's own movie mode is told and shows, where that is not simply the take's count and length.
std::string movie_told(const Sums& sums, const MovieMenu& menu) {
  std::string words;
  if (menu.by_time) {
    words = say("told {}", format_length(menu.shooting_s));
    if (menu.shots != shots_of(sums))
      words += say(", which makes {}", counted(menu.shots, "{} shot", "{} shots"));
  }
  if (std::abs(menu.shown_s - menu.movie_s) > 0.02)
    words += say("{}it shows {} of {}", words.empty() ? "" : "; ", format_length(menu.shown_s),
                 format_length(menu.movie_s, 2));
  return words;
}

}  // namespace

std::vector<Way> ways_of(const Sums& sums, const ShotMake& make, const Body& body, int film_pixels_across) {
  const MovieMenu menu = movie_menu(sums, body);
  const double seconds = static_cast<double>(sums.frames) * sums.interval_s,
               movie_s = static_cast<double>(sums.frames) / body.movie_fps;
  const int down = body.video_pixels_across * 9 / 16;
  const auto crop = [&](int across) { return static_cast<double>(across) / std::max(1, film_pixels_across); };
  return {
      {say("stills by timer"), sums.clip_s, static_cast<double>(shots_of(sums)) * shot_mb(make, body) / 1000,
       body.pixels_across, body.pixels_down, crop(body.pixels_across), say("any rate, any speed"), "",
       make.raw ? say("clicks joined, raw has room") : say("clicks joined, little room in compressed files"),
       say("{} × {} pixels, room to crop, any frame rate later, follows changing light.", body.pixels_across,
           body.pixels_down)},
      {say("camera's own movie"), movie_s, static_cast<double>(sums.frames) * movie_picture_mb(body) / 1000,
       body.video_pixels_across, down, crop(body.video_pixels_across), say("fixed when shot"),
       movie_told(sums, menu), say("the camera decides, and it shows"),
       say("The same shots make {} at its own {} fps; the rate cannot be changed later, nor the "
           "light evened out from raw.",
           format_length(movie_s, 1), format_number(body.movie_fps, 2))},
      {say("video sped up"), sums.clip_s, seconds * body.video_mbit_s / 8000, body.video_pixels_across, down,
       crop(body.video_pixels_across), say("freely, down to real time"), "",
       say("exposure held or pumping; no long shutters"),
       say("{} of video played {} times faster: no long shutters, video pixels only, and filming drains the "
           "battery.",
           format_length(seconds), format_number(sums.speed_up, 0))}};
}

std::vector<Seconds> nearby_intervals(Seconds now) {
  const auto tidy = [](Seconds s) { return s < 10 ? std::max(0.5, std::round(s * 2) / 2) : std::round(s); };
  std::vector<Seconds> list = {tidy(now / 2), now};
  for (const double more : {std::ceil(now), tidy(now * 1.5), tidy(now * 2), tidy(now * 3), tidy(now * 4)})
    if (list.size() < 4 && more > list.back() * 1.02) list.push_back(more);
  std::sort(list.begin(), list.end());
  return list;
}

std::vector<WhatIf> what_if(const std::vector<Wish>& wishes, const std::vector<Seconds>& intervals,
                            const ShotShape& shape) {
  std::vector<WhatIf> table;
  for (const Seconds interval : intervals) {
    std::vector<Wish> said = {{Slot::Interval, interval, false}};
    for (Wish w : wishes) {
      w.pinned = false;
      if (w.slot != Slot::Interval) said.push_back(w);
    }
    table.push_back({interval, solve(said, shape)});
  }
  return table;
}

}  // namespace askcount::plan
