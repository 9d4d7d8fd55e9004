// SPDX-License-Identifier: GPL-3.0-or-later
// Every frame of a take looked at, once, in order.
#pragma once

#include <functional>

#include "base/progress.h"
#include "inspect/measures.h"
#include "media/frame_source.h"

namespace askcount::inspect {

/// Called as frames are through, in order, with all that is known of those before `known`; from any thread,
/// never from two at once.
using Known = std::function<void(const Look& look, std::size_t known)>;

/// Looks at every frame with all processors. A bounded number of pictures is in memory at a time. A frame
/// that cannot be read is named and does not stop the look. Throws Cancelled where it was stopped, Failed
/// where a folder went away.
Look look_at(const media::Frames& frames, const media::FrameSource& source, const Work& work = {},
             const Known& known = {});

}  // namespace askcount::inspect
