// Medians and the like over a series of frames.
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "source/frame.h"

namespace askcount::audit {

/// The middle value; 0 of none.
double median(std::vector<double> v);

/// How far the values usually are from their median, as a standard deviation would be of even noise.
double spread(const std::vector<double>& v);

/// The values from `from` on up to but not with `to`, clamped to what there is.
std::vector<double> part(const std::vector<double>& v, long from, long to);

/// When a frame's first exposure began, in seconds of the camera's clock; nothing where it does not say.
std::optional<double> begun_s(const source::Frame& frame);

}  // namespace askcount::audit
