#include "take/mend.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"

namespace askcount::take {

namespace {

/// Puts a file's name into a list, or takes it out.
void put(std::vector<std::string>& list, const std::string& file, bool in) {
  std::erase(list, file);
  if (in) list.push_back(file);
}

/// A frame's number put into a list, or below 0 taken out.
void put(std::vector<double>& list, double frame) {
  std::erase(list, std::abs(frame));
  if (frame > 0) list.push_back(frame);
}

/// The mends that are about the frames' light; false where it is none.
bool mend_light(LevelWish& w, const Mend& mend) {
  if (mend.slot == "smooth") {
    put(w.smooth, mend.value);
    if (mend.value > 0) put(w.keep, -mend.value);
  } else if (mend.slot == "keep-change") {
    put(w.keep, mend.value);
    if (mend.value > 0) put(w.smooth, -mend.value);
  } else {
    return false;
  }
  return true;
}

/// The mends that are about frames; false where it is none.
bool mend_frames(GatherWish& w, const Mend& mend) {
  const bool in = mend.value > 0;
  if (mend.slot == "leave-out") {
    put(w.leave_out, mend.file, in);
    if (in) put(w.keep, mend.file, false);
  } else if (mend.slot == "keep") {
    put(w.keep, mend.file, in);
    if (in) put(w.leave_out, mend.file, false);
  } else if (mend.slot == "stand-in") {
    put(w.stand_in, mend.file, in);
  } else if (mend.slot == "fine") {
    put(w.fine, mend.file, in);
  } else if (mend.slot == "until") {
    w.until = mend.file;
  } else if (mend.slot == "from") {
    w.from = mend.file;
  } else if (mend.slot == "choose") {
    w.choose = std::max(0LL, static_cast<long long>(mend.value));
    w.join.clear();
  } else if (mend.slot == "join") {
    for (const double n : {mend.with, mend.value})
      if (n > 0 && std::find(w.join.begin(), w.join.end(), n) == w.join.end()) w.join.push_back(n);
    w.choose = 0;
  } else if (mend.slot == "clock") {
    w.clock_s = mend.value;
  } else if (mend.slot == "film-step") {
    w.film_step = std::max(0LL, static_cast<long long>(mend.value));
  } else {
    return false;
  }
  return true;
}

/// The mends that bring in what the person's own takes say; false where it is none.
bool mend_by_takes(Take& take, const Mend& mend) {
  const auto takes = static_cast<long long>(mend.with);
  const auto each = [&](auto& list, auto change) {
    for (auto& one : list)
      if (one.name == mend.file) change(one);
  };
  if (mend.slot == "battery-shots" || mend.slot == "battery-hours") {
    each(take.kit.batteries, [&](plan::Battery& b) {
      (mend.slot == "battery-shots" ? b.rated_shots : b.powered_hours) = mend.value;
      b.by_takes = takes;
    });
  } else if (mend.slot == "writing") {
    each(take.kit.bodies, [&](plan::Body& b) {
      b.writing_s = mend.value;
      b.writing_takes = takes;
    });
  } else if (mend.slot == "card-rate") {
    each(take.kit.cards, [&](plan::Card& c) {
      c.write_mb_s = mend.value;
      c.by_takes = takes;
    });
  } else if (mend.slot == "turning") {
    take.light.turning_s = mend.value;
    take.light.turning_takes = takes;
  } else if (mend.slot == "again") {
    if (mend.value > 0)
      take.again[mend.file] = static_cast<long long>(mend.value);
    else
      take.again.erase(mend.file);
  } else {
    return false;
  }
  return true;
}

}  // namespace

Take mended(const Take& take, const Mend& mend) {
  Take next = take;
  if (mend_frames(next.gather, mend) || mend_light(next.level, mend) || mend_by_takes(next, mend))
    return next;
  if (mend.slot == "source") {  // the frames come from somewhere else: nothing is decided about them
    next.card = mend.file;
    next.gather = {};
    return next;
  }
  if (const auto slot = plan::slot_of_word(mend.slot)) {
    if (mend.value > 0)
      next.wish(*slot, mend.value);
    else
      next.release(*slot);
  } else if (mend.slot == "lens") {
    next.optics.by = mend.value > 0 ? optics::By::Record : optics::By::Nothing;
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
    throw bad_input(say("There is nothing called \"{}\" to mend.", mend.slot));
  }
  return next;
}

}  // namespace askcount::take
