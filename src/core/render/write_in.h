// Words, clocks and a scale written into film frames.
#pragma once

#include <string>

#include "film/frame_buffer.h"
#include "print/lettering.h"
#include "render/plan.h"
#include "source/frame.h"

namespace askcount::render {

/// Lays what a film wants written over its frames. Safe from several threads at once.
class WriteIn {
 public:
  /// `frames` are all of the take: elapsed time counts from the first.
  WriteIn(const Written& written, image::Size film, const source::Frames& frames);
  /// `shot` is the frame of the take that is seen; `view_width` is how wide the view is, as a share of the
  /// frame's width.
  void onto(const film::FilmFrame& film, size_t shot, double view_width);

 private:
  std::string clock_of(size_t shot) const;
  Written written_;
  image::Size film_;
  source::Frames frames_;
  double pixels_;  // height of the letters
  print::Lettering text_, scale_;
};

}  // namespace askcount::render
