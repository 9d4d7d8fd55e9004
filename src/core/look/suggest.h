// SPDX-License-Identifier: GPL-3.0-or-later
// Where anchors are worth setting.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

namespace askcount::look {

/// Frames (counted from 0) worth an anchor: the ends of a take whose light changes, and between them the
/// frames where it bends most, so that a straight line from one to the next is nowhere off by more than what
/// an eye sees in a slow change (half a stop of brightness, a fifth of a stop of colour). As many as that
/// takes, at most 8; none where the light stays within that. `light` has brightness, red and blue of every
/// frame in stops, levelled.
std::vector<size_t> suggest_anchors(const std::vector<std::array<double, 3>>& light);

}  // namespace askcount::look
