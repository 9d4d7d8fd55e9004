#include "take/mend.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"

namespace askcount::take {

Take mended(const Take& take, const Mend& mend) {
  Take next = take;
  if (const auto slot = plan::slot_of_word(mend.slot)) {
    if (mend.value > 0)
      next.wish(*slot, mend.value);
    else
      next.release(*slot);
  } else if (mend.slot == "endless") {
    next.endless = mend.value > 0;
  } else if (mend.slot == "frames-apart") {
    next.light.rule.frames_apart = std::max(1, static_cast<int>(mend.value));
    next.light.rule.frames_apart_late =
        std::min(next.light.rule.frames_apart_late, next.light.rule.frames_apart);
  } else if (mend.slot == "highest-iso") {
    next.light.rule.highest_iso = mend.value;
  } else if (mend.slot == "school") {
    next.light.school = static_cast<ramp::School>(std::clamp(static_cast<int>(mend.value), 0, 2));
    next.light.clicks.clear();
  } else if (mend.slot == "timer") {
    const auto& timers = plan::timers_of(next.kit);
    next.timer = timers[std::min(timers.size() - 1, static_cast<size_t>(std::max(0.0, mend.value)))].name;
  } else if (mend.slot == "clicks") {
    next.light.clicks.clear();
  } else {
    throw bad_input(fmt::format("There is nothing called \"{}\" to mend.", mend.slot));
  }
  return next;
}

}  // namespace askcount::take
