// The render: frames decoded, levelled, drawn and encoded in one bounded pipeline.
#pragma once

#include <filesystem>
#include <span>
#include <string>
#include <vector>

#include "base/progress.h"
#include "film/reader.h"
#include "render/plan.h"
#include "source/frame_source.h"

namespace askcount::render {

/// What was made, read back from the finished file.
struct FilmOutcome {
  film::FilmFacts facts;
  double seconds_taken = 0;
  double flicker_before = 0;            ///< stops, over what was decoded
  std::vector<std::string> unreadable;  ///< frames that could not be read; their neighbours stand in
};

/// Makes every film that is ordered from one reading of the frames. The frame's middle is cropped to the
/// film's shape, never squashed; reading is scaled where all films are smaller than the frame. A bounded
/// number of frames is in memory at once, whatever the length. Films are written to temporary names, closed,
/// opened again and checked against their orders (frame count, duration, rate, size) before they take their
/// own.
///
/// Throws BadInput for orders that cannot be met (gains that are not one a frame among them), Cancelled when
/// stopped and Failed otherwise; films that were there before stay as they were, and nothing half-written is
/// left.
std::vector<FilmOutcome> render(const source::Frames& frames, const source::FrameSource& source,
                                std::span<const FilmOrder> orders, const Work& work = {});

/// The same for one film.
FilmOutcome render(const source::Frames& frames, const source::FrameSource& source, const FilmOrder& order,
                   const Work& work = {});

}  // namespace askcount::render
