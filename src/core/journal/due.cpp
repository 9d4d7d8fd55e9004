#include "journal/due.h"

#include <algorithm>

namespace askcount::journal {
namespace {

bool is_done(const ShootState& state, long long click) {
  return std::any_of(state.changes.begin(), state.changes.end(),
                     [&](const ShootState::Change& c) { return c.click == click; });
}

/// The frame of the last click that was really made; nothing before the first.
std::optional<long long> last_made(const ShootState& state) {
  std::optional<long long> last;
  for (const ShootState::Change& c : state.changes)
    if (!c.skipped) last = std::max(last.value_or(c.frame), c.frame);
  return last;
}

}  // namespace

std::vector<Due> due_clicks(const ramp::Ramp& ramp, const ShootState& state, long long frame,
                            const ramp::RampRule& rule) {
  std::vector<Due> list;
  std::optional<long long> last = last_made(state);  // and from then on the last that is due
  for (size_t i = 0; i < ramp.steps.size(); ++i) {
    const auto click = static_cast<long long>(i);
    if (is_done(state, click)) continue;
    const long long planned = ramp.steps[i].click.frame;
    const bool late = planned <= frame;
    long long due = std::max(planned, frame + 1);
    if (last && (late || !list.empty())) due = std::max(due, *last + rule.frames_apart_late);
    list.push_back({click, due, due - planned});
    last = due;
  }
  return list;
}

}  // namespace askcount::journal
