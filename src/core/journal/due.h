// The ramp's clicks that are still to be done.
#pragma once

#include <vector>

#include "journal/state.h"
#include "ramp/ramp.h"

namespace askcount::journal {

/// A click that is still to be done at a frame.
struct Due {
  long long click = 0;  ///< its place in the ramp
  long long frame = 0;  ///< before which it is to be done now
  long long late = 0;   ///< frames after its plan
};

/// Planned clicks keep their frames; one that is late is due at once, and those after it keep at least
/// `frames_apart_late` from each other.
std::vector<Due> due_clicks(const ramp::Ramp& ramp, const ShootState& state, long long frame,
                            const ramp::RampRule& rule);

}  // namespace askcount::journal
