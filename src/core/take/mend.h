// What a finding's one action does to the take.
#pragma once

#include "base/finding.h"
#include "take/take.h"

namespace askcount::take {

/// Carries a mend out on a copy of the take. Besides the words of slots it knows "endless" (1: the timer runs
/// until it is stopped), "school" (0 by hand, 1 fixed, 2 aperture priority), "frames-apart" and "highest-iso"
/// of the ramp's rule, "clicks" (0: worked out anew) and "timer" (the kit's, counted from 0). Of the frames:
/// "leave-out", "keep", "stand-in" and "fine" with a file (value 0 takes that back), "until" and "from" with
/// a file, "choose" with the take's number, "join" with the numbers of two that become one (after those that
/// are one already), "clock" with seconds. Of their
/// light: "smooth" and "keep-change" with the frame counted from 1 (below 0 takes that back). "lens" (1: what
/// it did is undone by its record). What the person's own takes say of the kit, `with` the number of takes
/// and `file` the name of the thing: "battery-shots", "battery-hours", "writing" (seconds), "card-rate" (MB a
/// second) and, of nothing in particular, "turning" (seconds); "again" puts a mistake (its code in `file`)
/// on the checklist, from `value` takes, 0 takes it off. Throws BadInput for a word it does not know and as
/// Take::wish would.
Take mended(const Take& take, const Mend& mend);

}  // namespace askcount::take
