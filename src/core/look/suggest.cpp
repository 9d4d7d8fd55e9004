// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/suggest.h"

#include <algorithm>
#include <cmath>

namespace askcount::look {
namespace {

constexpr std::array<double, 3> kSeen = {0.5, 0.2, 0.2};  // stops
constexpr size_t kMost = 8;

using Light = std::vector<std::array<double, 3>>;

/// How far frame n is from the line between two others, in what an eye sees.
double off_line(const Light& light, size_t from, size_t to, size_t n) {
  const double share = static_cast<double>(n - from) / static_cast<double>(to - from);
  double square = 0;
  for (size_t k = 0; k < 3; ++k) {
    const double line = light[from][k] * (1 - share) + light[to][k] * share;
    square += std::pow((light[n][k] - line) / kSeen[k], 2);
  }
  return std::sqrt(square);
}

}  // namespace

std::vector<size_t> suggest_anchors(const Light& light) {
  if (light.size() < 2) return {};
  const auto apart = [&](size_t a, size_t b) {
    double square = 0;
    for (size_t k = 0; k < 3; ++k) square += std::pow((light[a][k] - light[b][k]) / kSeen[k], 2);
    return std::sqrt(square);
  };
  double most = 0;
  for (size_t n = 0; n < light.size(); ++n) most = std::max(most, apart(0, n));
  if (most < 1) return {};
  // Douglas and Peucker: the frame farthest from the lines there are becomes the next.
  std::vector<size_t> anchors = {0, light.size() - 1};
  while (anchors.size() < kMost) {
    double worst = 1;
    size_t at = 0;
    for (size_t i = 0; i + 1 < anchors.size(); ++i)
      for (size_t n = anchors[i] + 1; n < anchors[i + 1]; ++n)
        if (const double off = off_line(light, anchors[i], anchors[i + 1], n); off > worst)
          worst = off, at = n;
    if (at == 0) break;
    anchors.insert(std::upper_bound(anchors.begin(), anchors.end(), at), at);
  }
  return anchors;
}

}  // namespace askcount::look
