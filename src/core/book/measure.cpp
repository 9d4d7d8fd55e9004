// SPDX-License-Identifier: GPL-3.0-or-later
#include "book/measure.h"

#include <algorithm>
#include <cmath>

#include "base/cold.h"
#include "base/median.h"
#include "base/units.h"
#include "forecast/exposure.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "ingest/pace.h"
#include "journal/state.h"
#include "ramp/ramp.h"
#include "simulate/camera.h"

namespace askcount::book {
namespace {

using Bound = Measure::Bound;

constexpr double kFewShots = 5;         // a buffer holds at least
constexpr double kDriftFrom_s = 600;    // a shorter take does not show a drift
constexpr double kSameInterval = 0.02;  // share that a timer may be off and still be set as planned

/// The stand-in wears its own kit, and a person's camera the person's.
bool of_this_kit(const take::Take& take, bool standin) {
  return take.knows_kit() && standin == (take.body().name == simulate::kBodyName);
}

/// How the camera and its card kept up.
void add_pace(std::vector<Measure>& list, const take::Take& take, const Entry& entry,
              const ingest::FoundTake& found, const std::string& body) {
  const auto& frames = *found.frames;
  if (!found.interval_s || frames.size() < 10) return;
  const std::string card = entry.gear.cards.empty() ? "" : entry.gear.cards.front();
  const double mb = ingest::usual_megabytes(frames), interval = *found.interval_s;
  const double writing = take.knows_kit() ? take.body().writing_s : 0;
  const double rate =
      take.knows_kit()
          ? std::min(take.body().write_mb_s, take.kit.cards.empty() ? 1e9 : take.kit.cards.front().write_mb_s)
          : 0;
  double longest = 0;
  for (const media::Frame& f : frames) longest = std::max(longest, ingest::open_s(f).value_or(0));
  if (const ingest::Busy busy = ingest::busy_of(found); !busy.gaps.empty()) {
    if (static_cast<double>(busy.first) >= kFewShots && mb > 0 && median(busy.gaps) > interval) {
      const double mb_s = mb / median(busy.gaps);
      const auto shots = static_cast<double>(busy.first);
      list.push_back({"card", card, mb_s, rate, Bound::Exact, {}, {}});
      list.push_back({"buffer",
                      body,
                      shots * std::max(0.0, mb - mb_s * interval),
                      take.knows_kit() ? take.body().buffer_mb : 0,
                      Bound::Exact,
                      {},
                      {}});
    } else {
      list.push_back({"writing", body, median(busy.free_s), writing, Bound::Exact, {}, {}});
    }
    return;
  }
  if (!found.missing.empty() || !found.off_beat.empty()) return;
  if (mb > 0) list.push_back({"card", card, mb / interval, rate, Bound::AtLeast, {}, {}});
  if (longest > 0 && interval > longest && found.exposures_each == 1)
    list.push_back({"writing", body, interval - longest, writing, Bound::AtMost, {}, {}});
}

}  // namespace

std::vector<Measure> measures_of(const take::Take& take, const Entry& entry, const ingest::FoundTake& found) {
  std::vector<Measure> list;
  const auto& frames = *found.frames;
  if (frames.empty()) return list;
  const bool standin = frames.front().info().body == simulate::kBodyName;
  if (take.knows_kit() && !of_this_kit(take, standin)) return list;
  const std::string body = take.knows_kit() ? take.body().name : frames.front().info().body;
  add_pace(list, take, entry, found, body);
  if (entry.planned.interval_s > 0 && !entry.gear.timer.empty() && found.sessions.empty() && found.start()) {
    long long lost = 0;
    for (const ingest::Missing& m : found.missing) lost += m.frames;
    const double span = media::seconds_of(*found.end()) - media::seconds_of(*found.start());
    const auto steps = static_cast<double>(static_cast<long long>(frames.size()) - 1 + lost);
    if (span >= kDriftFrom_s && steps > 0) {
      const double off = span / steps / entry.planned.interval_s - 1;
      if (std::abs(off) < kSameInterval)
        list.push_back({"drift", entry.gear.timer, off * 3600, 0, Bound::Exact, entry.temperature_c, {}});
    }
  }
  long long releases = 0;
  for (const media::Frame& f : frames) releases += static_cast<long long>(f.exposures.size());
  if (!body.empty())
    list.push_back({"releases",
                    body,
                    static_cast<double>(releases),
                    take.knows_kit() ? static_cast<double>(take.body().shutter_count) : 0,
                    Bound::Exact,
                    {},
                    {}});
  return list;
}

namespace {

/// What one battery was planned to give: the smaller of its shots and its hours, as plan::budgets_of().
Measure battery_measure(const take::Take& take, const Entry& entry, size_t which, double frames,
                        double interval_s, Bound bound) {
  const plan::Battery& b = take.kit.batteries[std::min(which, take.kit.batteries.size() - 1)];
  const double cold = take.cold_counts ? cold_share(take.temperature_c, b.rated_at_c) : 1;
  const double by_shots = b.rated_shots * cold / take.shot.brackets;
  const double by_hours = b.powered_hours * 3600 * cold / interval_s;
  if (by_shots <= by_hours)
    return {"battery", b.name, frames, std::floor(by_shots), bound, take.temperature_c, entry.humidity};
  return {"battery hours",    b.name,        frames * interval_s / 3600, b.powered_hours * cold, bound,
          take.temperature_c, entry.humidity};
}

bool says(const std::string& words, std::initializer_list<const char*> any) {
  return std::any_of(any.begin(), any.end(),
                     [&](const char* w) { return words.find(w) != std::string::npos; });
}

void add_batteries(Entry& entry, const take::Take& take, const journal::ShootState& state, long long frames) {
  if (take.external_power || take.kit.batteries.empty() || state.interval_s <= 0) return;
  size_t which = 0;
  long long since = 0;
  bool ended = false;
  const auto add = [&](long long until, Bound bound) {
    if (until > since)
      entry.by_journal.push_back(
          battery_measure(take, entry, which, static_cast<double>(until - since), state.interval_s, bound));
  };
  for (const journal::ShootState::Note& n : state.notes) {
    const std::string words = lowered(n.words);
    if (!says(words, {"battery"})) continue;
    if (n.fault == "battery" || says(words, {"empty", "dead", "died", "flat", "ran out"})) {
      if (!ended) add(n.frame, Bound::Exact);
      ended = true;
    } else if (says(words, {"changed the battery"})) {
      if (!ended) add(n.frame + 1, Bound::AtLeast);
      since = n.frame + 1;
      ended = false;
      ++which;
    }
  }
  // The stand-in's battery may be one that lasts for ever.
  if (!ended && !state.standin) add(frames, Bound::AtLeast);
}

void add_hand(Entry& entry, const take::Take& take, const journal::ShootState& state) {
  Shot& shot = *entry.shot;
  shot.skipped = static_cast<long long>(state.skipped.size());
  std::vector<long long> due;
  std::vector<ramp::Exposure> chain;
  if (take.solution().complete()) {
    const ramp::Ramp ramp = forecast::ramp_in_any_case(take);
    for (const ramp::RampStep& step : ramp.steps) due.push_back(step.click.frame);
    chain = ramp.chain;
  }
  const double real = state.real_interval_s();
  for (const journal::ShootState::Turn& turn : state.turns) {
    if (!turn.planned || turn.set) continue;
    const auto nth = static_cast<size_t>(shot.clicks++);
    if (nth < due.size() && turn.frame > due[nth]) ++shot.late_clicks;
    if (real <= 0 || turn.frame < 1) continue;
    double after = seconds_between(state.first, turn.at) - static_cast<double>(turn.frame - 1) * real;
    if (static_cast<size_t>(turn.frame) <= chain.size() && state.scale > 0)
      after -= chain[static_cast<size_t>(turn.frame - 1)].shutter_s / state.scale;
    if (after > 0 && after < real)
      entry.by_journal.push_back(
          {"dials", "", after, take.light.turning_s, Bound::Exact, entry.temperature_c, {}});
  }
  if (shot.clicks > 0)
    entry.by_journal.push_back({"late clicks",
                                "",
                                static_cast<double>(shot.late_clicks),
                                static_cast<double>(shot.clicks),
                                Bound::Exact,
                                {},
                                {}});
}

}  // namespace

void learn(Entry& entry, const take::Take& take, const std::vector<Json>& lines) {
  const journal::ShootState state = journal::state_of(lines);
  if (state.count <= 0) return;
  Shot shot;
  shot.standin = state.standin;
  shot.missed = state.missed;
  if (state.standin)
    shot.heard = state.shots - std::min(state.shots, state.missed);
  else if (!state.active)
    shot.heard = state.frame_at(lines.empty() ? now()
                                              : Instant(std::chrono::milliseconds(lines.back().value(
                                                    "at", now().time_since_epoch().count())))) +
                 1;
  for (const journal::ShootState::Note& n : state.notes) shot.notes.push_back(n.words);
  entry.shot = shot;
  entry.by_journal.clear();
  try {
    if (of_this_kit(take, state.standin)) add_batteries(entry, take, state, shot.heard);
    add_hand(entry, take, state);
  } catch (const Error&) {
    // A plan that cannot be worked out says nothing of the hand that followed it.
  }
}

std::optional<Measure> dew_of(const Entry& entry) {
  if (!entry.faults || !entry.humidity) return {};
  return Measure{
      "dew",         "", entry.faults->contains("dew") ? 1.0 : 0.0, 0, Bound::Exact, entry.temperature_c,
      entry.humidity};
}

}  // namespace askcount::book
