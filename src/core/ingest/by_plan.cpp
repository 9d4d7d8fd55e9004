// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/by_plan.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "base/language.h"
#include "ingest/beat.h"
#include "ingest/inventory.h"
#include "ingest/takes.h"

namespace askcount::ingest {
namespace {

using media::Frame;

constexpr double kSameBeat = 0.06;      // of the plan's interval
constexpr double kMostBeats = 12;       // that a hole within a take may have
constexpr double kKeeps = 0.9;          // of the steps, for a take that keeps the plan's beat
constexpr long long kMostBesides = 16;  // shots to try with, before or after
constexpr size_t kMostOnBeat = 3;       // of them that chance puts on the beat

std::optional<double> begun_at(const Frame& f) {
  for (const media::Exposure& e : f.exposures)
    if (e.info.captured) return media::seconds_of(*e.info.captured);
  return {};
}

/// The plan's beat against the clock of one take.
class Beat {
 public:
  Beat(double interval_s, double clock_s) : interval_(interval_s), clock_(clock_s) {}
  double steps(double seconds) const { return std::round(seconds / interval_); }
  /// Whether something so far off is a whole number of beats later, at least one.
  bool on(double seconds) const {
    const double n = steps(seconds);
    return n >= 1 && std::abs(seconds - n * interval_) <=
                         std::min(0.4 * interval_, tolerance_s(kSameBeat * interval_, clock_));
  }

 private:
  double interval_, clock_;
};

bool one_camera(const FoundTake& a, const FoundTake& b) {
  return !a.frames->empty() && !b.frames->empty() && a.exposures_each == b.exposures_each &&
         camera_of(a.frames->front().exposures.front()) == camera_of(b.frames->front().exposures.front());
}

/// Whether a take's own beat is the plan's, or a multiple of it.
bool kept_by(const FoundTake& take, double interval_s) {
  if (!take.interval_s) return take.frames->size() < 5;  // too few to have one
  const double n = std::round(*take.interval_s / interval_s);
  return n >= 1 && n <= kMostBeats &&
         std::abs(*take.interval_s - n * interval_s) <= std::max(kSameBeat * interval_s, take.clock_s / 4);
}

/// Whether one goes on where the other ends, on the beat.
bool goes_on(const FoundTake& a, const FoundTake& b, double interval_s) {
  if (!one_camera(a, b) || !kept_by(a, interval_s) || !kept_by(b, interval_s)) return false;
  const auto from = begun_at(a.frames->back()), to = begun_at(b.frames->front());
  if (!from || !to) return false;
  const double hole = *to - *from;
  const Beat beat(interval_s, std::max(a.clock_s, b.clock_s));
  // A stretch that has lost presses is followed by holes about as long as its own.
  const double usual = std::max(a.interval_s.value_or(interval_s), b.interval_s.value_or(interval_s));
  return beat.on(hole) && hole <= kMostBeats * std::max(interval_s, usual) + 1;
}

/// Whether a picture that was left out as a test stands on the beat between two frames.
bool belongs(const Dropped& d, double from, double to, const Beat& beat) {
  if (d.why != Dropped::Why::Test) return false;
  const auto at = begun_at(d.picture);
  return at && *at > from && *at < to && beat.on(*at - from) && beat.on(to - *at);
}

/// Frames in order of time, with the holes that the plan's beat says are in them.
FoundTake rebuilt(FoundTake take, std::vector<Frame> list, double interval_s) {
  const Beat beat(interval_s, take.clock_s);
  take.missing.clear();
  take.off_beat.clear();
  take.sessions.clear();
  take.incomplete.clear();
  take.weak.clear();
  double sum = 0, steps = 0;
  for (size_t i = 0; i + 1 < list.size(); ++i) {
    const auto a = begun_at(list[i]), b = begun_at(list[i + 1]);
    if (!a || !b) continue;
    const double n = std::max(1.0, beat.steps(*b - *a)), off = *b - *a - n * interval_s;
    if (n > 1) take.missing.push_back({i, static_cast<long long>(n) - 1, *b - *a});
    if (std::abs(off) > std::max(0.22 * interval_s, take.clock_s)) {
      take.off_beat.push_back({i + 1, off});
      continue;
    }
    sum += *b - *a;
    steps += n;
  }
  for (size_t i = 0; i < list.size(); ++i)
    if (list[i].exposures.size() < take.exposures_each) take.incomplete.push_back(i);
  if (steps > 0) take.interval_s = sum / steps;
  take.frames = media::frames_of(std::move(list));
  return take;
}

/// Two stretches of one take, with what was left out between them and stands on the beat.
FoundTake together(const FoundTake& a, const FoundTake& b, double interval_s) {
  const double from = *begun_at(a.frames->back()), to = *begun_at(b.frames->front());
  FoundTake one = a;
  one.clock_s = std::max(a.clock_s, b.clock_s);
  const Beat beat(interval_s, one.clock_s);
  std::vector<Frame> list = *a.frames;
  std::vector<Dropped> all = a.dropped;
  all.insert(all.end(), b.dropped.begin(), b.dropped.end());
  one.dropped.clear();
  for (Dropped& d : all)
    if (belongs(d, from, to, beat))
      list.push_back(std::move(d.picture));
    else
      one.dropped.push_back(std::move(d));
  std::stable_sort(list.begin() + static_cast<long>(a.frames->size()), list.end(),
                   [](const Frame& x, const Frame& y) { return begun_at(x) < begun_at(y); });
  list.insert(list.end(), b.frames->begin(), b.frames->end());
  return rebuilt(one, std::move(list), interval_s);
}

/// On which beat of the plan each frame stands, counted from the first; empty where they do not keep it.
std::vector<long long> beats_of(const FoundTake& take, double interval_s) {
  std::vector<long long> list;
  const Beat beat(interval_s, take.clock_s);
  double good = 0, at = 0;
  for (size_t i = 0; i < take.frames->size(); ++i) {
    const auto now = begun_at((*take.frames)[i]);
    if (!now) return {};
    if (i > 0) {
      const double step = *now - *begun_at((*take.frames)[i - 1]);
      good += beat.on(step);
      at += std::max(1.0, beat.steps(step));
    }
    list.push_back(static_cast<long long>(at));
  }
  return good >= kKeeps * static_cast<double>(list.size() - 1) ? list : std::vector<long long>{};
}

/// The frames (from, to) that are the plan's, by its number; nothing where they are all, or it cannot be
/// told.
std::optional<std::pair<size_t, size_t>> planned_part(const FoundTake& take, const Ask& ask) {
  const long long planned = *ask.frames;
  if (planned < 5 || !take.sessions.empty() || static_cast<long long>(take.frames->size()) <= planned)
    return {};
  if (static_cast<long long>(take.frames->size()) - planned > 2 * kMostBesides) return {};
  const std::vector<long long> beats = beats_of(take, *ask.interval_s);
  if (beats.empty()) return {};
  std::vector<std::pair<size_t, size_t>> best;
  size_t most = 0;
  for (size_t from = 0; from < beats.size(); ++from) {
    const size_t to = static_cast<size_t>(
        std::lower_bound(beats.begin(), beats.end(), beats[from] + planned) - beats.begin());
    if (to - from > most) best.clear(), most = to - from;
    if (to - from == most) best.emplace_back(from, to);
  }
  if (static_cast<long long>(most) < planned) return {};
  if (best.size() == 1)
    return best.front().first <= static_cast<size_t>(kMostBesides) ? std::optional(best.front())
                                                                   : std::nullopt;
  // They are too many and there is no hole: a few right before the moment it was to begin are not of it, what
  // comes after its number is.
  if (!ask.start) return {};
  for (size_t from = 1; from <= kMostOnBeat && from < take.frames->size(); ++from) {
    const auto at = begun_at((*take.frames)[from]);
    if (at && std::abs(*at - media::seconds_of(*ask.start)) <= *ask.interval_s / 4)
      return std::pair{from, take.frames->size()};
  }
  return {};
}

/// What lies beside the planned part goes beside the take.
void trim(FoundTake& take, std::pair<size_t, size_t> part, double interval_s) {
  const std::vector<Frame>& all = *take.frames;
  std::vector<Dropped> before, after;
  for (size_t i = 0; i < all.size(); ++i)
    if (i < part.first)
      before.push_back(
          {all[i], Dropped::Why::Test, true, say("Before the planned shots: a test shot or a marker.")});
    else if (i >= part.second)
      after.push_back(
          {all[i], Dropped::Why::Test, false, say("After the planned shots: a test shot or a marker.")});
  std::vector<Frame> list(all.begin() + static_cast<long>(part.first),
                          all.begin() + static_cast<long>(part.second));
  take.dropped.insert(take.dropped.end(), before.begin(), before.end());
  take.dropped.insert(take.dropped.end(), after.begin(), after.end());
  take = rebuilt(std::move(take), std::move(list), interval_s);
}

/// The days of a take as its sessions: the stretches of one camera that keep its beat.
std::vector<FoundTake> days_joined(const std::vector<FoundTake>& takes, double interval_s) {
  std::vector<FoundTake> list, parts;
  const auto put_down = [&] {
    if (!parts.empty()) list.push_back(parts.size() > 1 ? joined(parts) : parts.front());
    parts.clear();
  };
  for (const FoundTake& take : takes) {
    if (!kept_by(take, interval_s)) {
      put_down();
      list.push_back(take);
      continue;
    }
    if (!parts.empty() && !one_camera(parts.back(), take)) put_down();
    parts.push_back(take);
  }
  put_down();
  return list;
}

}  // namespace

std::vector<FoundTake> by_plan(std::vector<FoundTake> takes, const Ask& ask) {
  if (!ask.interval_s || *ask.interval_s <= 0) return takes;
  const double interval = *ask.interval_s;
  std::vector<FoundTake> list;
  for (FoundTake& take : takes) {
    if (!list.empty() && goes_on(list.back(), take, interval))
      list.back() = together(list.back(), take, interval);
    else
      list.push_back(std::move(take));
  }
  if (ask.days > 1) return days_joined(list, interval);
  for (FoundTake& take : list)
    if (ask.frames)
      if (const auto part = planned_part(take, ask)) trim(take, *part, interval);
  return list;
}

}  // namespace askcount::ingest
