// SPDX-License-Identifier: GPL-3.0-or-later
// What films will take: bytes and seconds, told from samples of them before they are made.
#pragma once

#include <span>
#include <vector>

#include "base/progress.h"
#include "media/frame_source.h"
#include "render/plan.h"

namespace askcount::render {

struct Estimate {
  double seconds = 0;         ///< to make all of them from one reading, on this machine as busy as it is
  std::vector<double> bytes;  ///< of each film's file
};

/// Makes three short samples of the films, one at a sixth, the half and five sixths of each, and counts on:
/// pictures that stand by themselves and the others apart, the start of an encoder apart from its pace. A
/// film that is not much longer than its samples is made whole. Nothing is left on the disk. Throws as
/// render().
Estimate estimate(const media::Frames& frames, const media::FrameSource& source,
                  std::span<const FilmOrder> orders, const Work& work = {});

}  // namespace askcount::render
