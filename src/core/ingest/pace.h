// SPDX-License-Identifier: GPL-3.0-or-later
// How a camera kept up with its timer, as its frames tell it.
#pragma once

#include <optional>
#include <vector>

#include "base/units.h"
#include "ingest/gather.h"

namespace askcount::ingest {

/// Seconds the shutter was open in all exposures of a frame; nothing where one does not say it.
std::optional<Seconds> open_s(const media::Frame& frame);

/// Megabytes of the files of one exposure, of a frame; 0 for files that are gone.
double megabytes_of(const media::Exposure& exposure);
double megabytes_of(const media::Frame& frame);
/// Of a usual frame: the middle of a few spread over the take.
double usual_megabytes(const std::vector<media::Frame>& frames);

/// A stretch in which the camera was busy when the timer pressed.
struct Busy {
  std::vector<Seconds> gaps;    ///< from the opening before to the late one
  std::vector<Seconds> free_s;  ///< of that, what the shutter was not open
  std::size_t first = 0;        ///< the first late frame
};

/// Empty where fewer than three shots came late, or a clock of whole seconds does not show it.
Busy busy_of(const FoundTake& found);

}  // namespace askcount::ingest
