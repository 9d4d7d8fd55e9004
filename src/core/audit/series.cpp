#include "audit/series.h"

#include <algorithm>
#include <cmath>

namespace askcount::audit {

double median(std::vector<double> v) {
  if (v.empty()) return 0;
  std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
  return v[v.size() / 2];
}

double spread(const std::vector<double>& v) {
  const double middle = median(v);
  std::vector<double> off;
  off.reserve(v.size());
  for (const double x : v) off.push_back(std::abs(x - middle));
  return 1.4826 * median(std::move(off));
}

std::vector<double> part(const std::vector<double>& v, long from, long to) {
  const long n = static_cast<long>(v.size());
  from = std::clamp(from, 0L, n);
  to = std::clamp(to, from, n);
  return {v.begin() + from, v.begin() + to};
}

std::optional<double> begun_s(const source::Frame& frame) {
  const auto& at = frame.exposures.front().info.captured;
  return at ? std::optional(source::seconds_of(*at)) : std::nullopt;
}

}  // namespace askcount::audit
