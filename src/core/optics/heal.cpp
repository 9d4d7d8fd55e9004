// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <type_traits>

#include "optics/spots.h"

namespace askcount::optics {
namespace {

constexpr double kTurn = 6.283185307179586;
constexpr double kRing = 1.35;     // radii out to which the edge is looked at: its grain evens out
constexpr int kFewestAround = 24;  // places along the edge
constexpr double kFeather = 0.25;  // of the radius, over which what is filled in fades

/// What lies along the edge of a spot, each place the mean of a few outwards.
template <typename Pixels>
std::vector<std::array<double, 3>> edge_of(const Pixels& p, double cx, double cy, double r) {
  const int n = std::max(kFewestAround, static_cast<int>(std::lround(kTurn * r)));
  const int outwards = std::max(2, static_cast<int>(std::lround((kRing - 1) * r)) + 1);
  std::vector<std::array<double, 3>> edge(static_cast<size_t>(n));
  for (int i = 0; i < n; ++i) {
    const double angle = kTurn * i / n;
    for (int k = 0; k < outwards; ++k) {
      const double d = r * (1 + (kRing - 1) * k / (outwards - 1)) + 0.5;
      const int x = std::clamp(static_cast<int>(std::lround(cx + d * std::cos(angle))), 0, p.size.width - 1);
      const int y = std::clamp(static_cast<int>(std::lround(cy + d * std::sin(angle))), 0, p.size.height - 1);
      for (size_t c = 0; c < 3; ++c)
        edge[static_cast<size_t>(i)][c] +=
            static_cast<double>(p.row(y)[3 * x + static_cast<int>(c)]) / outwards;
    }
  }
  return edge;
}

template <typename Pixels>
void heal_one(Pixels& p, const Spot& spot) {
  using Sample = std::remove_cvref_t<decltype(p.rgb[0])>;
  const double cx = spot.x * p.size.width - 0.5, cy = spot.y * p.size.height - 0.5;
  const double r = std::max(0.7, spot.radius * p.size.width), reach = r * (1 + kFeather);
  if (cx < -reach || cy < -reach || cx > p.size.width + reach || cy > p.size.height + reach) return;
  const auto edge = edge_of(p, cx, cy, reach);
  const int top = std::max(0, static_cast<int>(std::ceil(cy - reach))),
            bottom = std::min(p.size.height - 1, static_cast<int>(std::floor(cy + reach)));
  for (int y = top; y <= bottom; ++y)
    for (int x = std::max(0, static_cast<int>(std::ceil(cx - reach)));
         x <= std::min(p.size.width - 1, static_cast<int>(std::floor(cx + reach))); ++x) {
      const double dx = x - cx, dy = y - cy, d = std::hypot(dx, dy) / reach;
      if (d >= 1) continue;
      const double angle = std::atan2(dy, dx);
      std::array<double, 3> sum{};
      double weights = 0;
      for (size_t i = 0; i < edge.size(); ++i) {
        const double apart = angle - kTurn * static_cast<double>(i) / static_cast<double>(edge.size());
        const double w = (1 - d * d) / std::max(1e-6, 1 - 2 * d * std::cos(apart) + d * d);
        weights += w;
        for (size_t c = 0; c < 3; ++c) sum[c] += w * edge[i][c];
      }
      const double all = std::clamp((1 - d) / (kFeather / (1 + kFeather)), 0.0, 1.0);
      for (size_t c = 0; c < 3; ++c) {
        Sample& v = p.row(y)[3 * x + static_cast<int>(c)];
        const double filled = static_cast<double>(v) + all * (sum[c] / weights - static_cast<double>(v));
        if constexpr (std::is_integral_v<Sample>)
          v = static_cast<Sample>(
              std::clamp(std::lround(filled), 0L, static_cast<long>(std::numeric_limits<Sample>::max())));
        else
          v = static_cast<Sample>(filled);
      }
    }
}

}  // namespace

void heal(image::Picture& picture, const std::vector<Spot>& spots) {
  std::visit(
      [&](auto& p) {
        for (const Spot& s : spots) heal_one(p, s);
      },
      picture);
}

}  // namespace askcount::optics
