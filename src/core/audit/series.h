// Medians and the like over a series of frames.
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "audit/measures.h"
#include "source/frame.h"

namespace askcount::audit {

/// The middle value; 0 of none.
double median(std::vector<double> v);

/// How far the values usually are from their median, as a standard deviation would be of even noise.
double spread(const std::vector<double>& v);

/// The values from `from` on up to but not with `to`, clamped to what there is.
std::vector<double> part(const std::vector<double>& v, long from, long to);

/// How sharp and how clear a frame is: the middle of its parts, log2 of energy; the finest detail against the
/// middle-sized, and the middle-sized against its brightness.
double sharpness(const Measures& m);
double clearness(const Measures& m);

/// What a take has at its best for a tenth of its frames: percentages are of that. 0 of none.
double best_of(const std::vector<double>& v);

/// When a frame's first exposure began, in seconds of the camera's clock; nothing where it does not say.
std::optional<double> begun_s(const source::Frame& frame);

}  // namespace askcount::audit
