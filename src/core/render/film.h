// SPDX-License-Identifier: GPL-3.0-or-later
// What a film is: which frames it shows when, which part of them, what is written over them, how it is
// encoded. A take wishes for it (take::FilmWish) and the render is given it (render::FilmOrder): both are one
// of these with what only they know.
#pragma once

#include <string>
#include <vector>

#include "image/pixels.h"
#include "media/coding.h"
#include "motion/steadying.h"
#include "render/timeline.h"
#include "render/view.h"

namespace askcount::render {

/// What is written into a film's pictures, in its own type.
struct Written {
  std::string text;                                  ///< a line below, at the left; empty for none
  bool time = false, date = false, elapsed = false;  ///< of each picture's shot, below at the right
  std::string scale;  ///< what a bar of `scale_share` of the frame's width is: "1 m"; empty for no bar
  double scale_share = 0.2;
  bool operator==(const Written&) const = default;
  bool none() const { return text.empty() && !time && !date && !elapsed && scale.empty(); }
};

struct Film {
  image::Size size{1920, 1080};
  media::Coding coding;
  Choice choice;                  ///< which frames it shows when; all, one after the other
  std::vector<ViewAnchor> views;  ///< the part of the frame it shows; empty for the largest of its shape
  bool crisp = false;             ///< resampled for sharpness; otherwise without halos
  motion::Mode steady = motion::Mode::None;
  double fade_in_s = 0, fade_out_s = 0;  ///< from and to black, of film time
  Written written;
  bool operator==(const Film&) const = default;
};

}  // namespace askcount::render
