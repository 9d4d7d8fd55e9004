// SPDX-License-Identifier: GPL-3.0-or-later
#include "motion/steadying.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/median.h"

namespace askcount::motion {
namespace {

constexpr double kLeastBump = 0.0008;  // of the width
constexpr double kBumpSpread = 6;      // times the usual movement
constexpr double kRadians = 3.14159265358979323846 / 180;

/// How far a pose differs from another at the edge of the picture, in shares of the width.
double apart(const Pose& a, const Pose& b) {
  return std::hypot(a.dx - b.dx, a.dy - b.dy) + 0.4 * std::abs(a.turn_deg - b.turn_deg) * kRadians;
}

double jitter(const std::vector<Pose>& path) {
  if (path.size() < 2) return 0;
  double sum = 0;
  for (size_t n = 1; n < path.size(); ++n) {
    const double dx = path[n].dx - path[n - 1].dx, dy = path[n].dy - path[n - 1].dy;
    sum += dx * dx + dy * dy;
  }
  return std::sqrt(sum / static_cast<double>(path.size() - 1));
}

Pose less(const Pose& a, const Pose& b) {
  return {a.dx - b.dx, a.dy - b.dy, a.turn_deg - b.turn_deg, a.held_by, a.error};
}

/// The path without what shakes: a Gaussian mean whose ends are mirrored about the last pose, so that a
/// steady walk goes on.
std::vector<Pose> smoothed(const std::vector<Pose>& path, int reach) {
  const auto count = static_cast<long>(path.size());
  const double sigma = std::max(1.0, reach / 2.0);
  std::vector<Pose> out(path.size());
  const auto at = [&](long n) {
    if (n >= 0 && n < count) return path[static_cast<size_t>(n)];
    const Pose& end = n < 0 ? path.front() : path.back();
    const long mirror = std::clamp(n < 0 ? -n : 2 * (count - 1) - n, 0L, count - 1);
    const Pose& p = path[static_cast<size_t>(mirror)];
    return Pose{2 * end.dx - p.dx, 2 * end.dy - p.dy, 2 * end.turn_deg - p.turn_deg, 0, 0};
  };
  for (long n = 0; n < count; ++n) {
    Pose sum;
    double weights = 0;
    for (long k = -2L * reach; k <= 2L * reach; ++k) {
      const double w = std::exp(-0.5 * static_cast<double>(k * k) / (sigma * sigma));
      const Pose p = at(n + k);
      sum.dx += w * p.dx, sum.dy += w * p.dy, sum.turn_deg += w * p.turn_deg;
      weights += w;
    }
    out[static_cast<size_t>(n)] = {sum.dx / weights, sum.dy / weights, sum.turn_deg / weights, 0, 0};
  }
  return out;
}

/// How much of each frame's own movement is the camera's and not the measurement's, 0 to 1: by the steps
/// around it against the errors of the poses (Wiener's weight). A camera that stands is not shaken by what
/// could not be measured finer.
std::vector<double> believed(const std::vector<Pose>& path) {
  constexpr size_t kAround = 15;
  std::vector<double> steps(path.size(), 0), errors(path.size(), 0), out(path.size(), 1);
  for (size_t n = 1; n < path.size(); ++n) {
    const double dx = path[n].dx - path[n - 1].dx, dy = path[n].dy - path[n - 1].dy;
    steps[n] = dx * dx + dy * dy;
    errors[n] = path[n].error * path[n].error + path[n - 1].error * path[n - 1].error;
  }
  for (size_t n = 0; n < path.size(); ++n) {
    double step = 0, error = 0;
    for (size_t k = n > kAround ? n - kAround : 1; k < std::min(path.size(), n + kAround + 1); ++k)
      step += steps[k], error += errors[k];
    out[n] = step > 0 ? std::clamp(1 - error / step, 0.0, 1.0) : 0;
  }
  return out;
}

/// The narrowest margin that hides every frame's edge, as a share of the width: how much smaller a view in
/// the middle must be.
double edge_of(const std::vector<Pose>& corrections, double shape) {
  double most = 0;
  const double w = 0.5, h = 0.5 / shape;  // half the frame, in widths
  for (const Pose& p : corrections) {
    const double c = std::cos(p.turn_deg * kRadians), s = std::sin(p.turn_deg * kRadians);
    // The largest share k of the frame, about its middle, whose corners all stay inside.
    double k = 1;
    for (const auto& corner : std::array<std::array<double, 2>, 4>{{{-w, -h}, {w, -h}, {-w, h}, {w, h}}}) {
      const double x = c * corner[0] - s * corner[1], y = s * corner[0] + c * corner[1];
      if (std::abs(x) > 1e-12) k = std::min(k, (w - (x > 0 ? p.dx : -p.dx)) / std::abs(x));
      if (std::abs(y) > 1e-12) k = std::min(k, (h - (y > 0 ? p.dy : -p.dy)) / std::abs(y));
    }
    most = std::max(most, 1 - k);
  }
  return std::clamp(most, 0.0, 1.0);
}

}  // namespace

std::vector<size_t> bumps_of(const std::vector<Pose>& path) {
  std::vector<double> steps;
  for (size_t n = 1; n < path.size(); ++n) steps.push_back(apart(path[n], path[n - 1]));
  // Wind moves the camera much more in some hours than in others: what is usual is told nearby.
  constexpr size_t kAround = 40;
  std::vector<size_t> bumps;
  for (size_t n = 0; n < steps.size(); ++n) {
    const auto from = static_cast<long>(n > kAround ? n - kAround : 0);
    const auto to = static_cast<long>(std::min(steps.size(), n + kAround + 1));
    const double usual = median({steps.begin() + from, steps.begin() + to});
    if (steps[n] > std::max(kLeastBump, kBumpSpread * usual)) bumps.push_back(n + 1);
  }
  return bumps;
}

Steadied steadied(const std::vector<Pose>& path, Mode mode, double shape, int reach) {
  Steadied out;
  out.jitter_before = out.jitter_after = jitter(path);
  if (mode == Mode::None || path.empty()) return out;
  out.corrections = path;
  const std::vector<double> sure = mode == Mode::Bumps ? std::vector<double>(path.size(), 1) : believed(path);
  if (mode == Mode::Bumps) {
    const std::vector<size_t> bumps = bumps_of(path);
    Pose gone;
    size_t next = 0;
    for (size_t n = 0; n < path.size(); ++n) {
      if (next < bumps.size() && bumps[next] == n) {
        const Pose step = less(path[n], path[n - 1]);
        gone.dx += step.dx, gone.dy += step.dy, gone.turn_deg += step.turn_deg;
        ++next;
      }
      out.corrections[n] = {gone.dx, gone.dy, gone.turn_deg, path[n].held_by, 0};
    }
  } else {
    // What goes on slowly is sure however little each frame is; of what is quick as much as is believed.
    constexpr int kSlow = 6;
    const std::vector<Pose> slow = smoothed(path, kSlow);
    if (mode == Mode::Walk) out.corrections = smoothed(path, reach);
    for (size_t n = 0; n < path.size(); ++n) {
      const Pose quick = less(path[n], slow[n]);
      const double w = sure[n];
      const Pose meant = mode == Mode::Walk ? out.corrections[n] : Pose{};
      out.corrections[n] = {slow[n].dx + w * quick.dx - meant.dx, slow[n].dy + w * quick.dy - meant.dy,
                            slow[n].turn_deg + w * quick.turn_deg - meant.turn_deg, path[n].held_by,
                            path[n].error};
    }
  }
  if (mode != Mode::Walk) {  // the picture stands where it costs least: midway between the ends
    for (const auto& part : {&Pose::dx, &Pose::dy, &Pose::turn_deg}) {
      const auto [low, high] =
          std::minmax_element(out.corrections.begin(), out.corrections.end(),
                              [part](const Pose& a, const Pose& b) { return a.*part < b.*part; });
      const double middle = (*low.*part + *high.*part) / 2;
      for (Pose& p : out.corrections) p.*part -= middle;
    }
  }
  std::vector<Pose> left;
  for (size_t n = 0; n < path.size(); ++n) left.push_back(less(path[n], out.corrections[n]));
  // What is left is what was seen and is meant to stay, and what could not be measured finer.
  double unseen = 0;
  for (size_t n = 1; n < path.size(); ++n)
    unseen += sure[n] * sure[n] * (path[n].error * path[n].error + path[n - 1].error * path[n - 1].error);
  if (path.size() > 1) unseen /= static_cast<double>(path.size() - 1);
  out.jitter_after = std::hypot(jitter(left), std::sqrt(unseen));
  out.edge = edge_of(out.corrections, shape);
  return out;
}

}  // namespace askcount::motion
