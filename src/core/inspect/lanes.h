// SPDX-License-Identifier: GPL-3.0-or-later
// What was measured as lanes over the frames, for drawing.
#pragma once

#include <string>
#include <vector>

#include "inspect/faults.h"

namespace askcount::inspect {

/// One measure of every frame.
struct Lane {
  LaneKind kind = LaneKind::Beat;
  std::string name;           ///< "Beat", "Still", …
  std::vector<float> values;  ///< one a frame; not a number where it is not known
  float low = 0, high = 1;    ///< what the lane's height shall show, at least
  std::string unit;           ///< "s", "px", "%", "stops"
};

/// All lanes of a take, the ones a look is needed for empty until there is one. Beat: seconds off the
/// interval; still: pixels from the first frame; sharp and clear: percent of the fine detail and contrast the
/// take has at its best; alike: percent of the picture that is like neither neighbour; exposure: stops
/// against the first frame. Frames from `known` on have not been compared with what follows them yet.
std::vector<Lane> lanes_of(const ingest::FoundTake& take, const Look& look, std::size_t known);

/// A mark on the frames' axis: the first frame at or after a round time, or a round frame where there are no
/// times.
struct Tick {
  std::size_t frame = 0;
  std::optional<media::CameraTime> at;  ///< the round time
  bool with_seconds = false;            ///< it takes those to tell it from the next
};
/// At most about `most` of them.
std::vector<Tick> ticks_of(const ingest::FoundTake& take, int most);

}  // namespace askcount::inspect
