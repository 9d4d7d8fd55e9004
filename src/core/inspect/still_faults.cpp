// SPDX-License-Identifier: GPL-3.0-or-later
// The camera moved: a bump that stays, a knock that swings back, sinking, wind.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include <numbers>

#include "base/language.h"
#include "base/units.h"
#include "inspect/eye.h"
#include "inspect/faults.h"
#include "inspect/series.h"

namespace askcount::inspect {
namespace {

constexpr double kHeld = 0.5;      // share of the picture that must agree
constexpr double kLeast = 0.35;    // working pixels: less is nothing
constexpr long kSide = 5;          // frames on either side of a jump
constexpr double kSlowWay = 1.2;   // working pixels from first to last
constexpr double kDrift = 0.12;    // working pixels a frame: what moves on faster is the sky, or was moved
constexpr double kBlurMoves = 2;   // working pixels that a change of blur may seem to move a picture by
constexpr double kWanders = 0.45;  // working pixels, the root mean square
constexpr double kShakes = 0.4;    // working pixels from one frame to the next, in wind

/// Where the frames lie whose place is known, in working pixels; the turn as what it does at the picture's
/// corner.
struct Track {
  std::vector<size_t> frame;
  std::vector<double> x, y, turn;
  std::vector<double> off_x, off_y,
      off;          ///< how far the step to it is from the usual one there; below zero where it is not known
  double unit = 1;  ///< full pixels to a working one
  bool drifts = false;  ///< most of the time

  size_t size() const { return frame.size(); }
  double apart(size_t a, size_t b) const { return std::hypot(x[a] - x[b], y[a] - y[b], turn[a] - turn[b]); }
};

Track track_of(const ingest::FoundTake& take, const Look& look) {
  Track t;
  double width = 0, height = 0;
  for (const media::Frame& f : *take.frames)
    if (f.info().size.width > 0) {
      const image::Size full = image::upright(f.info().size, f.info().orientation);
      width = full.width, height = full.height;
      break;
    }
  t.unit = std::max(1.0, width / kStillWidth);
  const double corner = std::hypot(width, height) / 2 * std::numbers::pi / 180 / t.unit;
  for (size_t n = 0; n < look.frames.size(); ++n) {
    const Measures& m = look.frames[n];
    if (!m.seen() || (n > 0 && static_cast<double>(m.held_by) < kHeld)) continue;
    t.frame.push_back(n);
    t.x.push_back(static_cast<double>(m.x) / t.unit);
    t.y.push_back(static_cast<double>(m.y) / t.unit);
    t.turn.push_back(static_cast<double>(m.turn_deg) * corner);
  }
  // A sky that drifts takes the same step again and again: what a step is off that counts.
  std::vector<double> sx, sy, st;
  for (const size_t n : t.frame) {
    sx.push_back(static_cast<double>(look.frames[n].step_x) / t.unit);
    sy.push_back(static_cast<double>(look.frames[n].step_y) / t.unit);
    st.push_back(static_cast<double>(look.frames[n].step_turn_deg) * corner);
  }
  t.drifts = std::hypot(median(sx), median(sy)) > kDrift;
  double drift_x = 0, drift_y = 0;
  for (size_t k = 0; k < t.size(); ++k) {
    const long i = static_cast<long>(k);
    const double ux = median(part(sx, i - 8, i + 9)), uy = median(part(sy, i - 8, i + 9));
    t.off_x.push_back(sx[k] - ux);
    t.off_y.push_back(sy[k] - uy);
    const bool known = look.frames[t.frame[k]].step_held_by > 0;
    t.off.push_back(known ? std::hypot(t.off_x[k], t.off_y[k], st[k] - median(part(st, i - 8, i + 9))) : -1);
    // Where it drifts, the drift is taken off too.
    drift_x += t.drifts ? ux : 0;
    drift_y += t.drifts ? uy : 0;
    t.x[k] -= drift_x;
    t.y[k] -= drift_y;
  }
  return t;
}

std::string direction(double x, double y, double unit) {
  const auto word = [&](double v, const std::string& more, const std::string& less) -> std::string {
    const long px = std::lround(std::abs(v) * unit);
    return px == 0 ? "" : say("{} px {}", px, v > 0 ? more : less);
  };
  const std::string across = word(x, say("right"), say("left")), down = word(y, say("down"), say("up"));
  return across.empty() ? down : down.empty() ? across : across + ", " + down;
}

/// Middle of the values [from, to) of the track.
struct Place {
  double x = 0, y = 0, turn = 0;
  double from(const Place& o) const { return std::hypot(x - o.x, y - o.y, turn - o.turn); }
};
Place place(const Track& t, long from, long to) {
  return {median(part(t.x, from, to)), median(part(t.y, from, to)), median(part(t.turn, from, to))};
}
Place at(const Track& t, size_t k) {
  return {t.x[k], t.y[k], t.turn[k]};
}

/// The most that a quiet frame wanders, from the steps between frames.
double usual_step(const Track& t) {
  std::vector<double> steps;
  for (size_t k = 1; k < t.size(); ++k) steps.push_back(t.apart(k, k - 1));
  return median(steps);
}

/// Only where the pictures are `clear`.
void find_wind(const Track& t, const std::vector<bool>& clear, std::vector<Fault>& found,
               std::vector<bool>& explained) {
  constexpr long kWindow = 12;
  std::vector<double> off(t.size());
  for (size_t k = 0; k < t.size(); ++k) {
    const long i = static_cast<long>(k);
    off[k] = clear[k] ? at(t, k).from(place(t, i - 4, i + 5)) : 0;
  }
  const long end_of_all = static_cast<long>(t.size());
  for (long k = 0; k + kWindow <= end_of_all;) {
    const auto shaken = [&](long from) {
      const auto begin = off.begin() + from;
      return std::count_if(begin, begin + kWindow, [](double v) { return v > kShakes; }) * 10 >= kWindow * 4;
    };
    if (!shaken(k)) {
      ++k;
      continue;
    }
    long end = k + kWindow;
    while (end + kWindow / 2 <= end_of_all && shaken(std::min(end - kWindow / 2, end_of_all - kWindow)))
      ++end;
    // From the first to the last that is really off.
    long from = k, to = std::min(end, end_of_all);
    while (from < to && off[static_cast<size_t>(from)] <= kShakes) ++from;
    while (to > from && off[static_cast<size_t>(to - 1)] <= kShakes) --to;
    if (to - from < kWindow - 2) {
      k = end;
      continue;
    }
    double sum = 0;
    for (long i = from; i < to; ++i)
      sum += off[static_cast<size_t>(i)] * off[static_cast<size_t>(i)],
          explained[static_cast<size_t>(i)] = true;
    const double rms = std::sqrt(sum / std::max(1.0, static_cast<double>(to - from))) * t.unit;
    const size_t a = t.frame[static_cast<size_t>(from)],
                 b = t.frame[static_cast<size_t>(std::max(from, to - 1))];
    found.push_back({FaultKind::Wind, a, b, rms, "px",
                     say("The picture shakes by {} px from frame to frame.", format_number(rms, 1)),
                     Remedy::ShiftBack});
    k = end;
  }
}

/// Where a slow way begins: the line through its lower half, followed back to where it stood.
size_t where_it_begins(const std::vector<double>& along, double way) {
  size_t low = 0, high = along.size() - 1;
  for (size_t k = 0; k < along.size(); ++k)
    if (along[k] < 0.15 * way) low = k;
  for (size_t k = along.size(); k-- > low;)
    if (along[k] > 0.5 * way) high = k;
  if (high <= low) return low;
  const double a_frame = 0.35 * way / static_cast<double>(high - low);
  const double back = along[low] / a_frame;
  return low - std::min(low, static_cast<size_t>(std::max(0.0, back)));
}

/// Sinking, and wandering about.
void find_slow_ways(const Track& t, double step, std::vector<Fault>& found) {
  const long n = static_cast<long>(t.size()), ends = std::max(3L, n / 10);
  if (n < 20) return;
  const Place start = place(t, 0, ends), finish = place(t, n - ends, n);
  const double way = std::hypot(finish.x - start.x, finish.y - start.y);
  // Sinking: a slow way to one side that never turns back.
  if (way > std::max(kSlowWay, 4 * step)) {
    const double ux = (finish.x - start.x) / way, uy = (finish.y - start.y) / way;
    std::vector<double> along;
    for (size_t k = 0; k < t.size(); ++k) along.push_back((t.x[k] - start.x) * ux + (t.y[k] - start.y) * uy);
    // Ten stretches, each farther than the one before it.
    int farther = 0;
    double largest = 0, last = median(part(along, 0, n / 10));
    for (long d = 1; d < 10; ++d) {
      const double here = median(part(along, d * n / 10, (d + 1) * n / 10));
      farther += here > last - 0.05 * way ? 1 : 0;
      largest = std::max(largest, here - last);
      last = here;
    }
    if (farther >= 8 && largest < 0.7 * way)
      found.push_back({FaultKind::Sinking, t.frame[where_it_begins(along, way)], t.frame.back(), way * t.unit,
                       "px",
                       say("The camera is sinking: {} in all.",
                           direction(finish.x - start.x, finish.y - start.y, t.unit)),
                       Remedy::ShiftBack});
  }
  // Wandering about: the stabiliser, or a soft ground.
  if (found.empty() && n >= 30) {
    double sum = 0;
    for (long k = 0; k < n; ++k) {
      const double off = at(t, static_cast<size_t>(k)).from(place(t, k - 30, k + 31));
      sum += off * off;
    }
    const double rms = std::sqrt(sum / static_cast<double>(n));
    if (rms > kWanders && step < 1)
      found.push_back({FaultKind::Wind, t.frame.front(), t.frame.back(), rms * t.unit, "px",
                       say("The picture wanders about by {} px: wind, or stabilisation left on.",
                           format_number(rms * t.unit, 1)),
                       Remedy::ShiftBack});
  }
}

/// Without what a gust does at its edges: that belongs to it. And without what blur only seems to shake.
std::vector<Fault> calm(const std::vector<Fault>& found, const Stretches& unclear, double unit) {
  std::vector<Fault> left;
  for (const Fault& f : found) {
    const bool poor = std::any_of(unclear.begin(), unclear.end(), [&](const auto& s) {
      return f.frame + 2 > s.first && f.frame <= s.second + 1;
    });
    if (poor && (f.kind == FaultKind::Swing || (f.kind == FaultKind::Bump && f.amount < kBlurMoves * unit)))
      continue;
    const bool gust = f.kind != FaultKind::Wind && f.kind != FaultKind::Sinking &&
                      std::any_of(found.begin(), found.end(), [&](const Fault& w) {
                        return w.kind == FaultKind::Wind && f.frame + 4 > w.frame && f.frame < w.last + 4;
                      });
    if (!gust) left.push_back(f);
  }
  return left;
}

}  // namespace

std::vector<Fault> still_faults(const ingest::FoundTake& take, const Look& look, const Stretches& unclear) {
  std::vector<Fault> found;
  Track t = track_of(take, look);
  if (t.size() < 6) return found;
  const double step = usual_step(t);
  std::vector<bool> explained(t.size(), false);
  std::vector<bool> clear(t.size());
  for (size_t k = 0; k < t.size(); ++k)
    clear[k] = std::none_of(unclear.begin(), unclear.end(),
                            [&](const auto& s) { return t.frame[k] >= s.first && t.frame[k] <= s.second; });
  find_wind(t, clear, found, explained);
  const double least = std::max(kLeast, 8 * step);
  // Jumps: the frames before and after lie apart, each side by itself together.
  for (size_t k = 1; k < t.size(); ++k) {
    if (explained[k]) continue;
    const long i = static_cast<long>(k);
    const Place before = place(t, i - kSide, i), after = place(t, i, i + kSide);
    const double jump = after.from(before), now = t.apart(k, k - 1);
    // Two frames beside each other must show it too, not only what was made of many.
    if (now < least || t.off[k] < 0.4 * now) continue;
    // Does it come back within a few frames?
    size_t back = 0;
    for (size_t n = 1; n <= static_cast<size_t>(kSide) && k + n < t.size() && back == 0; ++n)
      if (at(t, k + n).from(before) < std::max(0.35 * now, 0.5 * least)) back = n;
    if (back > 0) {
      double most = 0;
      for (size_t n = 0; n < back; ++n)
        most = std::max(most, at(t, k + n).from(before)), explained[k + n] = true;
      explained[k + back] = true;
      found.push_back({FaultKind::Swing, t.frame[k], t.frame[k + back - 1], most * t.unit, "px",
                       say("The picture jumps {} and swings back.",
                           direction(t.x[k] - before.x, t.y[k] - before.y, t.unit)),
                       Remedy::ShiftBack});
      continue;
    }
    if (jump < least || now < 0.5 * jump) continue;
    // Its own step, without what the sky drifts meanwhile.
    const std::string where = direction(t.off_x[k], t.off_y[k], t.unit);
    const double turned = after.turn - before.turn;
    const std::string turn =
        std::abs(turned) > 0.5 * least
            ? say("{}turns by {}°", where.empty() ? "" : say(" and "),
                  format_number(
                      std::abs(look.frames[t.frame[k]].turn_deg - look.frames[t.frame[k - 1]].turn_deg), 2))
            : "";
    found.push_back(
        {FaultKind::Bump, t.frame[k], look.frames.size() - 1,
         std::max(t.off[k], turned != 0 ? jump : 0) * t.unit, "px",
         say("The picture {}{}{}, and stays there.", where.empty() ? "" : say("jumps "), where, turn),
         Remedy::ShiftBack});
    // Taken off what follows, so that a slow sinking shows by itself.
    for (size_t n = k; n < t.size(); ++n) {
      t.x[n] -= after.x - before.x;
      t.y[n] -= after.y - before.y;
      t.turn[n] -= turned;
    }
  }
  // The slow ways, seen only where pictures are clear.
  Track c;
  c.unit = t.unit;
  for (size_t k = 0; k < t.size(); ++k)
    if (clear[k]) {
      c.frame.push_back(t.frame[k]);
      c.x.push_back(t.x[k]);
      c.y.push_back(t.y[k]);
      c.turn.push_back(t.turn[k]);
    }
  if (!t.drifts) find_slow_ways(c, step, found);
  return calm(found, unclear, t.unit);
}

}  // namespace askcount::inspect
