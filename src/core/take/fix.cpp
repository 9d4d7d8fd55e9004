// SPDX-License-Identifier: GPL-3.0-or-later
#include "take/fix.h"

#include <algorithm>

#include "base/error.h"
#include "base/language.h"

namespace askcount::take {
namespace {

/// Puts a name or a number into a list, or takes it out.
template <typename T>
void put(std::vector<T>& list, const T& one, bool in) {
  std::erase(list, one);
  if (in) list.push_back(one);
}

void apply(Take& t, const fix::SetSlot& m) {
  t.wish(m.slot, m.value);
}
void apply(Take& t, const fix::Release& m) {
  t.release(m.slot);
}

void apply(Take& t, const fix::StartAt& m) {
  start_at(t, m.at);
}
void apply(Take& t, const fix::AimAt& m) {
  const sky::Aim aim{m.bearing_deg, m.tilt_deg, t.light.move.from.roll_deg};
  t.light.move = {aim, aim, t.light.move.eased};
}
void apply(Take& t, const fix::SetSubject& m) {
  t.subject = m.words;
  if (m.interval_s > 0) t.wish(plan::Slot::Interval, m.interval_s);
}

void apply(Take& t, const fix::RunEndless&) {
  t.endless = true;
}
void apply(Take& t, const fix::UseTimer& m) {
  const auto& timers = plan::timers_of(t.kit);
  if (std::none_of(timers.begin(), timers.end(), [&](const auto& timer) { return timer.name == m.name; }))
    throw bad_input(say("The kit has no timer called \"{}\".", m.name));
  t.timer = m.name;
}

void apply(Take& t, const fix::LetCameraExpose&) {
  t.light.method = ramp::Method::AperturePriority;
  t.light.clicks.clear();
}
void apply(Take& t, const fix::TurnEvery& m) {
  ramp::RampRule& rule = t.light.rule;
  rule.frames_apart = std::max(1, static_cast<int>(m.frames));
  rule.frames_apart_late = std::min(rule.frames_apart_late, rule.frames_apart);
}
void apply(Take& t, const fix::AllowIso& m) {
  t.light.rule.highest_iso = m.iso;
}
void apply(Take& t, const fix::RedoClicks&) {
  t.light.clicks.clear();
}

void apply(Take& t, const fix::LeaveOut& m) {
  put(t.gather.leave_out, m.file, m.on);
  if (m.on) put(t.gather.keep, m.file, false);
}
void apply(Take& t, const fix::Keep& m) {
  put(t.gather.keep, m.file, m.on);
  if (m.on) put(t.gather.leave_out, m.file, false);
}
void apply(Take& t, const fix::StandIn& m) {
  put(t.gather.stand_in, m.file, m.on);
}
void apply(Take& t, const fix::CallFine& m) {
  put(t.gather.fine, m.file, m.on);
}
void apply(Take& t, const fix::BeginAt& m) {
  t.gather.from = m.file;
}
void apply(Take& t, const fix::EndAt& m) {
  t.gather.until = m.file;
}

void apply(Take& t, const fix::ChooseTake& m) {
  t.gather.choose = m.number;
  t.gather.join.clear();
}
void apply(Take& t, const fix::JoinTakes& m) {
  std::vector<double>& join = t.gather.join;
  for (const auto n : {static_cast<double>(m.first), static_cast<double>(m.second)})
    if (n > 0 && std::find(join.begin(), join.end(), n) == join.end()) join.push_back(n);
  t.gather.choose = 0;
}
void apply(Take& t, const fix::SetClock& m) {
  t.gather.clock_s = m.seconds;
}
void apply(Take& t, const fix::UseSource& m) {
  t.card = m.path;
  t.gather = {};
}
void apply(Take& t, const fix::TakeEvery& m) {
  t.gather.film_step = m.pictures;
}

void apply(Take& t, const fix::SmoothChange& m) {
  const auto frame = static_cast<double>(m.frame);
  put(t.level.smooth, frame, m.on);
  if (m.on) put(t.level.keep, frame, false);
}
void apply(Take& t, const fix::KeepChange& m) {
  const auto frame = static_cast<double>(m.frame);
  put(t.level.keep, frame, m.on);
  if (m.on) put(t.level.smooth, frame, false);
}
void apply(Take& t, const fix::UndoLens& m) {
  t.optics.by = m.on ? optics::By::Record : optics::By::Nothing;
}

void apply(Take& t, const fix::Learn& m) {
  const auto each = [&](auto& list, auto change) {
    for (auto& one : list)
      if (one.name == m.name) change(one);
  };
  using What = fix::Learn::What;
  switch (m.what) {
    case What::BatteryShots:
    case What::BatteryHours:
      each(t.kit.batteries, [&](plan::Battery& b) {
        (m.what == What::BatteryShots ? b.rated_shots : b.powered_hours) = m.value;
        b.by_takes = m.takes;
      });
      break;
    case What::Writing:
      each(t.kit.bodies, [&](plan::Body& b) {
        b.writing_s = m.value, b.writing_takes = m.takes;
        std::erase(b.guessed, "writing_s");
      });
      break;
    case What::CardRate:
      each(t.kit.cards, [&](plan::Card& c) { c.write_mb_s = m.value, c.by_takes = m.takes; });
      break;
    case What::CountsGap:
      if (t.kit.timers.empty()) t.kit.timers = plan::timers_of(t.kit);
      each(t.kit.timers,
           [&](plan::Timer& x) { x.counts = m.value > 0 ? plan::Counts::Gap : plan::Counts::Interval; });
      break;
    case What::Turning:
      t.light.turning_s = m.value;
      t.light.turning_takes = m.takes;
      break;
  }
}
void apply(Take& t, const fix::Remind& m) {
  if (m.takes > 0)
    t.again[m.mistake] = m.takes;
  else
    t.again.erase(m.mistake);
}

}  // namespace

Take with_fix(const Take& take, const Fix& fix) {
  Take next = take;
  std::visit([&next](const auto& one) { apply(next, one); }, fix);
  return next;
}

}  // namespace askcount::take
