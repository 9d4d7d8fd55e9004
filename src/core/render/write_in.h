// SPDX-License-Identifier: GPL-3.0-or-later
// Words, clocks and a scale written into film frames.
#pragma once

#include <string>

#include "image/lettering.h"
#include "media/frame.h"
#include "media/frame_buffer.h"
#include "render/plan.h"

namespace askcount::render {

/// Lays what a film wants written over its frames. Safe from several threads at once.
class WriteIn {
 public:
  /// `frames` are all of the take: elapsed time counts from the first.
  WriteIn(const Written& written, image::Size film, const media::Frames& frames);
  /// `shot` is the frame of the take that is seen; `view_width` is how wide the view is, as a share of the
  /// frame's width.
  void onto(const media::FilmFrame& film, size_t shot, double view_width);

 private:
  std::string clock_of(size_t shot) const;
  Written written_;
  image::Size film_;
  media::Frames frames_;
  double pixels_;  // height of the letters
  image::Lettering text_, scale_;
};

}  // namespace askcount::render
