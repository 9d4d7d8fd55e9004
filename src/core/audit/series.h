// Medians and the like over a series of frames.
#pragma once

#include <cstddef>
#include <vector>

namespace askcount::audit {

/// The middle value; 0 of none.
double median(std::vector<double> v);

/// How far the values usually are from their median, as a standard deviation would be of even noise.
double spread(const std::vector<double>& v);

/// The values from `from` on up to but not with `to`, clamped to what there is.
std::vector<double> part(const std::vector<double>& v, long from, long to);

}  // namespace askcount::audit
