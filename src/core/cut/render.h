// The cut: frames decoded, levelled, resampled and encoded in one bounded pipeline.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/progress.h"
#include "cut/encoder.h"
#include "cut/film.h"
#include "gather/gather.h"
#include "level/levelling.h"

namespace askcount::cut {

/// A film to be made from a take's frames.
struct CutOrder {
  std::vector<gather::Frame> frames;
  std::filesystem::path output;
  FrameRate fps;
  picture::Size size{1920, 1080};
  Coding coding;
  level::Smoothing smoothing;
  bool levelled = true;  ///< false leaves every frame as it was shot
  std::vector<double>
      gains;  ///< linear, one a frame, where the levelling is known already; otherwise worked out on the way
};

/// What was made, read back from the finished file.
struct CutOutcome {
  FilmFacts facts;
  double seconds_taken = 0;
  double flicker_before = 0;            ///< stops, over what was decoded
  std::vector<std::string> unreadable;  ///< frames that could not be read; their neighbours stand in
};

/// Renders `order`. The frame's middle is cropped to the film's shape, never squashed; decoding is scaled
/// where the film is smaller than the frame. A bounded number of frames is in memory at once, whatever the
/// length. The film is written to a temporary name, closed, renamed, opened again and checked against the
/// order (frame count, duration, rate, size). Throws BadInput for orders that cannot be met, Cancelled when
/// stopped and Failed otherwise; a film that was there before stays as it was, and nothing half-written is
/// left.
CutOutcome render(const CutOrder& order, const Work& work = {});

}  // namespace askcount::cut
