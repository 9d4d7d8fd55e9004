// SPDX-License-Identifier: GPL-3.0-or-later
// A film's levelling worked out before the first of its frames is drawn.
#pragma once

#include "base/progress.h"
#include "level/brightness.h"
#include "media/frame_source.h"
#include "render/plan.h"

namespace askcount::render {

/// Measures all frames and gives the order their corrections, where it is to be levelled and has none. With
/// views all of the frame is measured. Throws as level::measure().
level::Evenness level_ahead(FilmOrder& order, const media::Frames& frames, const media::FrameSource& source,
                            const Work& work = {});

}  // namespace askcount::render
