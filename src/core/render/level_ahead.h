// A film's levelling worked out before the first of its frames is drawn.
#pragma once

#include "base/progress.h"
#include "level/brightness.h"
#include "render/plan.h"
#include "source/frame_source.h"

namespace askcount::render {

/// Measures all frames and gives the order their corrections, where it is to be levelled and has none. With
/// views all of the frame is measured. Throws as level::measure().
level::Evenness level_ahead(FilmOrder& order, const source::Frames& frames, const source::FrameSource& source,
                            const Work& work = {});

}  // namespace askcount::render
