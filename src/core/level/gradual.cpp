// SPDX-License-Identifier: GPL-3.0-or-later
#include "level/gradual.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "level/smoothing.h"

namespace askcount::level {
namespace {

constexpr size_t kWanderBack = 24;  // frames that tell how the light was going and what it wanders by
constexpr size_t kFewest = 5;       // of them
constexpr size_t kAround = 4;       // frames to either side of a step that its slope is told by
constexpr size_t kClose = 2;        // the same where little flickers: a part in kClear of the change
constexpr double kClear = 20;
constexpr double kLeastChange = 0.2;   // stops
constexpr double kSure = 6;            // times what the light wanders by
constexpr double kLeastSteep = 0.012;  // stops a frame that it begins with
constexpr double kStep = 0.6;          // share of the change that one frame may make: more is a step
constexpr double kOver = 0.25;         // share of the steepest slope below which it is over

struct Line {
  double middle = 0, slope = 0;
};

/// Least squares through frames from to to, which are at least two; the value is at their middle.
Line line_through(const GradualChange::Light& light, size_t from, size_t to) {
  const double centre = static_cast<double>(from + to) / 2;
  Line line;
  double xy = 0, xx = 0;
  for (size_t k = from; k <= to; ++k) {
    const double x = static_cast<double>(k) - centre;
    line.middle += light(k) / static_cast<double>(to - from + 1);
    xy += x * light(k);
    xx += x * x;
  }
  line.slope = xy / xx;
  return line;
}

double middle_of(const GradualChange::Light& light, size_t from, size_t to) {
  std::vector<double> v;
  for (size_t k = from; k <= to; ++k) v.push_back(light(k));
  return median_of(v);
}

}  // namespace

bool GradualChange::begins(size_t i, double slope, const Light& light, size_t count) {
  const size_t from = std::max(i > kWanderBack ? i - kWanderBack : 0, ended_), until = i - 2;
  if (until < from + kFewest || i + kAhead >= count) return false;
  const Line line = line_through(light, from, until);
  const double centre = static_cast<double>(from + until) / 2;
  const auto going = [&](size_t k) { return line.middle + line.slope * (static_cast<double>(k) - centre); };
  // What it wanders by: of the course it was on, and from frame to frame, here too.
  std::vector<double> apart, flickers;
  for (size_t k = from; k <= until; ++k) apart.push_back(std::abs(light(k) - going(k)));
  for (size_t k = from + 1; k < i + kAhead; ++k)
    flickers.push_back(std::abs(light(k) - (light(k - 1) + light(k + 1)) / 2));
  const double flicker = 1.4826 * median_of(flickers) / std::sqrt(1.5);
  const double wanders = std::max(flicker, 1.4826 * median_of(apart));
  // Where it is by then. The course it was on is believed less the further it is followed.
  const double then = middle_of(light, i + 3, i + kAhead);
  const double by_course = then - going(i + 4), by_place = then - middle_of(light, until - 4, until);
  const double change = std::abs(by_course) < std::abs(by_place) ? by_course : by_place;
  if (by_course * by_place <= 0 || std::abs(change) < std::max(kLeastChange, kSure * wanders)) return false;
  const double steep = slope - line.slope;
  if (steep * change <= 0 || std::abs(steep) < std::max(kLeastSteep, std::abs(change) / 20)) return false;
  double largest = 0;
  for (size_t k = i - 2; k <= i + kAhead; ++k)
    largest = std::max(largest, std::abs(light(k) - light(k - 1) - line.slope));
  if (largest - 3 * flicker > kStep * std::abs(change)) return false;
  trend_ = line.slope;
  // Followed the closer the less flickers in it.
  around_ = flicker < std::abs(change) / kClear ? kClose : kAround;
  return true;
}

double GradualChange::step(size_t i, const Light& light, size_t count) {
  if (i < kAround || i >= count) return 0;
  // Between frame i − 1 and frame i.
  const size_t around = under_way_ ? around_ : kAround;
  const double slope = line_through(light, i - around, std::min(i + around, count) - 1).slope;
  if (!under_way_ && begins(i, slope, light, count)) {
    under_way_ = true;
    began_ = i;
    steepest_ = 0;
  }
  if (!under_way_) return 0;
  const double change = slope - trend_;
  const bool on =
      steepest_ == 0 || (change * steepest_ > 0 && std::abs(change) > kOver * std::abs(steepest_));
  if (!on) {
    under_way_ = false;
    ended_ = i;
    return 0;
  }
  if (std::abs(change) > std::abs(steepest_)) steepest_ = change;
  return change;
}

}  // namespace askcount::level
