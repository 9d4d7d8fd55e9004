// SPDX-License-Identifier: GPL-3.0-or-later
// Anchors over film time: set, moved and taken away so that their times go on rising.
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

#include "render/timeline.h"
#include "render/view.h"

namespace askcount::render {

/// The anchor at a moment, or nearer to it than `tolerance_s`; null where there is none. Anchor has `at_s`.
template <typename Anchor>
Anchor* anchor_near(std::vector<Anchor>& anchors, double at_s, double tolerance_s) {
  Anchor* nearest = nullptr;
  for (Anchor& a : anchors)
    if (std::abs(a.at_s - at_s) < tolerance_s &&
        (!nearest || std::abs(a.at_s - at_s) < std::abs(nearest->at_s - at_s)))
      nearest = &a;
  return nearest;
}

/// Puts an anchor in its place; one that is nearer to its time than `tolerance_s` gives way to it, and its
/// time stays.
template <typename Anchor>
void set_anchor(std::vector<Anchor>& anchors, Anchor anchor, double tolerance_s) {
  if (Anchor* there = anchor_near(anchors, anchor.at_s, tolerance_s)) {
    anchor.at_s = there->at_s;
    *there = anchor;
    return;
  }
  const auto after =
      std::find_if(anchors.begin(), anchors.end(), [&](const Anchor& a) { return a.at_s > anchor.at_s; });
  anchors.insert(after, anchor);
}

/// Moves an anchor in time, no nearer to its neighbours than `tolerance_s`, and not before the beginning.
template <typename Anchor>
void move_anchor(std::vector<Anchor>& anchors, std::size_t which, double at_s, double tolerance_s) {
  const double least = which > 0 ? anchors[which - 1].at_s + tolerance_s : 0;
  double most = which + 1 < anchors.size() ? anchors[which + 1].at_s - tolerance_s : 1e6;
  most = std::max(least, most);
  anchors[which].at_s = std::clamp(at_s, least, most);
}

/// Takes away the anchor at a moment; false where there is none so near.
template <typename Anchor>
bool remove_anchor(std::vector<Anchor>& anchors, double at_s, double tolerance_s) {
  Anchor* there = anchor_near(anchors, at_s, tolerance_s);
  if (!there) return false;
  anchors.erase(anchors.begin() + (there - anchors.data()));
  return true;
}

}  // namespace askcount::render
