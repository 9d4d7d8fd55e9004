// SPDX-License-Identifier: GPL-3.0-or-later
// Medians and the like over a series of frames.
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "base/median.h"
#include "ingest/gather.h"
#include "inspect/measures.h"

namespace askcount::inspect {

/// How far the values usually are from their median, as a standard deviation would be of even noise.
double spread(const std::vector<double>& v);

/// The values from `from` on up to but not with `to`, clamped to what there is.
std::vector<double> part(const std::vector<double>& v, long from, long to);

/// How sharp and how clear a frame is: the middle of its parts, log2 of energy; the finest detail against the
/// middle-sized, and the middle-sized against its brightness.
double sharpness(const Measures& m);
double clearness(const Measures& m);

/// What a take has at its best for a tenth of its frames, `least` of them at least: percentages are of that.
/// 0 of none.
double best_of(const std::vector<double>& v, long least = 1);

/// The frames that contrast can be told of: neither blank nor largely white.
std::vector<size_t> telling(const Look& look);

/// A value of one part over such frames.
std::vector<double> over(const Look& look, const std::vector<size_t>& frames, const Parts Measures::*value,
                         size_t part);

/// What a frame's light would be at the same exposure throughout, in stops.
double light_of(const ingest::FoundTake& take, const Look& look, size_t n);

/// When a frame's first exposure began, in seconds of the camera's clock; nothing where it does not say.
std::optional<double> begun_s(const media::Frame& frame);

}  // namespace askcount::inspect
