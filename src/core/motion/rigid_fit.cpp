// SPDX-License-Identifier: GPL-3.0-or-later
#include "motion/rigid_fit.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "base/median.h"

namespace askcount::motion {
namespace {

constexpr double kAgrees = 1.0;  // pixels
constexpr int kPairs = 100;

/// The same numbers every time.
class Draw {
 public:
  size_t below(size_t n) {
    state_ = state_ * 6364136223846793005ULL + 1442695040888963407ULL;
    return static_cast<size_t>((state_ >> 33U) % n);
  }

 private:
  std::uint64_t state_ = 0x9E3779B97F4A7C15ULL;
};

/// How far places lie from where a fit has them, squared.
class Off {
 public:
  Off(const RigidFit& f, const cv::Point2f& middle) {
    const double c = std::cos(f.turn), s = std::sin(f.turn);
    c_ = static_cast<float>(c), s_ = static_cast<float>(s);
    x_ = static_cast<float>(middle.x + f.dx - c * middle.x + s * middle.y);
    y_ = static_cast<float>(middle.y + f.dy - s * middle.x - c * middle.y);
  }
  float squared(const cv::Point2f& from, const cv::Point2f& to) const {
    const float x = c_ * from.x - s_ * from.y + x_ - to.x, y = s_ * from.x + c_ * from.y + y_ - to.y;
    return x * x + y * y;
  }

 private:
  float c_, s_, x_, y_;
};

size_t agreeing(const RigidFit& f, const std::vector<cv::Point2f>& from, const std::vector<cv::Point2f>& to,
                const cv::Point2f& middle) {
  const Off off(f, middle);
  size_t agree = 0;
  for (size_t i = 0; i < from.size(); ++i)
    agree += off.squared(from[i], to[i]) < static_cast<float>(kAgrees * kAgrees) ? 1 : 0;
  return agree;
}

/// The fit of two places alone.
RigidFit of_pair(const cv::Point2f& a, const cv::Point2f& b, const cv::Point2f& to_a, const cv::Point2f& to_b,
                 const cv::Point2f& middle) {
  const cv::Point2f before = b - a, after = to_b - to_a;
  RigidFit f;
  f.turn = std::atan2(before.x * after.y - before.y * after.x, before.x * after.x + before.y * after.y);
  const cv::Point2f turned = f.of((a + b) * 0.5F, middle), there = (to_a + to_b) * 0.5F;
  f.dx = there.x - turned.x, f.dy = there.y - turned.y, f.share = 1;
  return f;
}

/// Least squares by weights, small turns.
RigidFit weighted(const std::vector<cv::Point2f>& from, const std::vector<cv::Point2f>& to,
                  const std::vector<double>& weights, const cv::Point2f& middle) {
  double sum = 0, fx = 0, fy = 0, tx = 0, ty = 0;
  for (size_t i = 0; i < from.size(); ++i) {
    const double w = weights[i];
    sum += w;
    fx += w * from[i].x, fy += w * from[i].y;
    tx += w * to[i].x, ty += w * to[i].y;
  }
  if (sum <= 0) return {};
  fx /= sum, fy /= sum, tx /= sum, ty /= sum;
  double cross = 0, dot = 0;
  for (size_t i = 0; i < from.size(); ++i) {
    const double ax = from[i].x - fx, ay = from[i].y - fy, bx = to[i].x - tx, by = to[i].y - ty;
    cross += weights[i] * (ax * by - ay * bx);
    dot += weights[i] * (ax * bx + ay * by);
  }
  RigidFit f;
  f.turn = std::atan2(cross, dot);
  const double c = std::cos(f.turn), s = std::sin(f.turn);
  // The weighted middle goes to the weighted middle.
  const double x = fx - middle.x, y = fy - middle.y;
  f.dx = tx - middle.x - (c * x - s * y);
  f.dy = ty - middle.y - (s * x + c * y);
  f.share = 1;
  return f;
}

}  // namespace

cv::Point2f RigidFit::of(const cv::Point2f& p, const cv::Point2f& middle) const {
  const double c = std::cos(turn), s = std::sin(turn), x = p.x - middle.x, y = p.y - middle.y;
  return {static_cast<float>(c * x - s * y + middle.x + dx),
          static_cast<float>(s * x + c * y + middle.y + dy)};
}

RigidFit RigidFit::after(const RigidFit& first) const {
  const double c = std::cos(turn), s = std::sin(turn);
  return {c * first.dx - s * first.dy + dx, s * first.dx + c * first.dy + dy, turn + first.turn, share,
          std::hypot(error, first.error)};
}

RigidFit fit_rigid(const std::vector<cv::Point2f>& from, const std::vector<cv::Point2f>& to,
                   const cv::Point2f& middle) {
  const size_t n = from.size();
  if (n < 6) return {};
  Draw draw;
  RigidFit best;
  size_t most = 0;
  std::vector<double> weights(n);
  for (int k = 0; k < kPairs; ++k) {
    const size_t a = draw.below(n), b = draw.below(n);
    if (a == b || std::hypot(from[a].x - from[b].x, from[a].y - from[b].y) < 30) continue;
    const RigidFit f = of_pair(from[a], from[b], to[a], to[b], middle);
    const size_t agree = agreeing(f, from, to, middle);
    if (agree > most) most = agree, best = f;
    if (4 * most > 3 * n) break;
  }
  if (most < 6) return {};
  for (int round = 0; round < 12; ++round) {
    std::vector<double> off(n), inner;
    const Off from_best(best, middle);
    for (size_t i = 0; i < n; ++i) {
      off[i] = std::sqrt(static_cast<double>(from_best.squared(from[i], to[i])));
      if (off[i] < 2 * kAgrees) inner.push_back(off[i]);
    }
    // Tukey's weights: nothing beyond 4.685 of the spread.
    const double reach = std::clamp(4.685 * 1.2 * median(inner), 0.12, 2 * kAgrees);
    for (size_t i = 0; i < n; ++i) {
      const double u = off[i] / reach;
      weights[i] = u < 1 ? (1 - u * u) * (1 - u * u) : 0;
    }
    const RigidFit next = weighted(from, to, weights, middle);
    if (next.share <= 0) break;
    const double moved = std::hypot(next.dx - best.dx, next.dy - best.dy);
    best = next;
    if (moved < 1e-4) break;
  }
  const size_t agree = agreeing(best, from, to, middle);
  double left = 0, count = 0;
  const Off from_best(best, middle);
  for (size_t i = 0; i < n; ++i)
    if (weights[i] > 0) left += static_cast<double>(from_best.squared(from[i], to[i])), ++count;
  best.error = count > 2 ? std::sqrt(left / (count - 2) / count) : 0;
  best.share = agree < 6 ? 0 : static_cast<double>(agree) / static_cast<double>(n);
  return best;
}

StandingCorners standing_corners(const std::vector<Track>& tracks, size_t frames, double least_share,
                                 double slope) {
  StandingCorners out;
  out.stands.assign(tracks.size(), true);
  if (frames < 6) return out;  // too few to tell a way from a shake
  // Each place's way: the middle one of its steps from frame to frame, which a jump does not move.
  struct Way {
    size_t track;
    double x, y;
  };
  std::vector<Way> ways;
  std::vector<std::vector<double>> all_steps(frames + 1);  // of each frame, across
  for (size_t i = 0; i < tracks.size(); ++i) {
    const Track& t = tracks[i];
    if (t.at.size() * 2 < frames) {
      out.stands[i] = false;
      continue;
    }
    std::vector<double> dx, dy;
    for (size_t k = 0; k < t.at.size(); ++k) {
      const cv::Point2f before = k > 0 ? t.at[k - 1].place : t.from;
      if (t.at[k].frame != (k > 0 ? t.at[k - 1].frame : 0) + 1) continue;
      dx.push_back(t.at[k].place.x - before.x);
      dy.push_back(t.at[k].place.y - before.y);
      all_steps[t.at[k].frame].push_back(std::hypot(dx.back(), dy.back()));
    }
    if (dx.size() * 3 < frames) continue;
    ways.push_back({i, median(dx), median(dy)});
  }
  if (ways.size() < 6) return out;
  // What shakes goes some way by chance alone: the middle of this many steps of that size.
  std::vector<double> steps;
  for (const auto& frame : all_steps)
    if (!frame.empty()) steps.push_back(median(frame));
  const double shakes = median(steps);
  const double stands_below = slope + 2.5 * shakes / std::sqrt(static_cast<double>(frames));
  // How many share a way, within what a turn of the camera leaves between them.
  const double alike = std::max(0.02, 1.0 / static_cast<double>(frames));
  struct Mode {
    double x, y, length;
    size_t many;
  };
  std::vector<Mode> modes;
  for (const Way& w : ways) {
    double x = 0, y = 0;
    size_t many = 0;
    for (const Way& o : ways)
      if (std::hypot(o.x - w.x, o.y - w.y) < alike) x += o.x, y += o.y, ++many;
    x /= static_cast<double>(many), y /= static_cast<double>(many);
    modes.push_back({x, y, std::hypot(x, y), many});
  }
  const auto enough = static_cast<size_t>(std::max(6.0, least_share * static_cast<double>(ways.size())));
  const Mode* chosen = nullptr;
  for (const Mode& m : modes)
    if (m.many >= enough && m.length < stands_below &&
        (!chosen || m.length + 0.3 * alike < chosen->length ||
         (m.length < chosen->length + 0.3 * alike && m.many > chosen->many)))
      chosen = &m;
  if (!chosen) {
    chosen = &*std::max_element(modes.begin(), modes.end(),
                                [](const Mode& a, const Mode& b) { return a.many < b.many; });
    // What goes on evenly goes by itself, as stars do; what also shakes is moved by the camera.
    std::vector<double> uneven;
    for (const Way& w : ways) {
      if (std::hypot(w.x - chosen->x, w.y - chosen->y) > alike) continue;
      const Track& t = tracks[w.track];
      for (size_t k = 1; k < t.at.size(); ++k)
        uneven.push_back(std::hypot(t.at[k].place.x - t.at[k - 1].place.x - chosen->x,
                                    t.at[k].place.y - t.at[k - 1].place.y - chosen->y));
    }
    if (median(uneven) < 0.5 * chosen->length)
      out.drift = {static_cast<float>(chosen->x), static_cast<float>(chosen->y)};
  }
  std::vector<bool> member(tracks.size(), false);
  for (const Way& w : ways)
    if (std::hypot(w.x - chosen->x, w.y - chosen->y) < 1.5 * alike) member[w.track] = true;
  out.stands = member;
  return out;
}

}  // namespace askcount::motion
