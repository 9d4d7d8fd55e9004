// SPDX-License-Identifier: GPL-3.0-or-later
// How a film of a take is to be: which frames when, seen how, encoded how. Plain values.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/frame_rate.h"
#include "render/film.h"

namespace askcount::take {

/// What a film says of itself in its metadata.
struct SaidWish {
  bool title = false, place = false;  ///< the take's name and place
  std::string words, author;          ///< empty for not
  bool chapters = false;              ///< where the light changes
  bool operator==(const SaidWish&) const = default;
};

/// One of a take's films, as it is wished for.
struct FilmWish : render::Film {
  std::string name;            ///< among the take's films; its file is called by it; empty for the take's own
  std::string ending = "mp4";  ///< of its file's name
  std::optional<FrameRate> fps;    ///< another than the plan's; nothing for that one
  std::string sound;               ///< a file laid under, relative to the take's folder; empty for none
  double sound_from_s = 0;         ///< where in it the film begins
  std::optional<double> poster_s;  ///< a picture of this moment of the film lies beside it
  bool report = false;             ///< what the finished film was found to be lies beside it (JSON)
  SaidWish said;
  bool operator==(const FilmWish&) const = default;
};

/// Whether a film can be called so: its name is a file's, beside the take and nowhere else, so it has no
/// stroke in it, no dot before it and no sign that is not seen, and at most 120 bytes. Takes from others are
/// held to that when they are read.
bool is_film_name(const std::string& name);

}  // namespace askcount::take
