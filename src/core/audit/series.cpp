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

double sharpness(const Measures& m) {
  std::vector<double> v;
  for (size_t p = 0; p < kParts; ++p) v.push_back(static_cast<double>(m.fine[p] - m.coarse[p]));
  return median(std::move(v));
}

double clearness(const Measures& m) {
  return median({m.coarse.begin(), m.coarse.end()});
}

double best_of(const std::vector<double>& v) {
  const long n = static_cast<long>(v.size()), tenth = std::max(1L, n / 10);
  double best = n > 0 ? -1e9 : 0;
  for (long k = 0; k + tenth <= n; k += tenth) best = std::max(best, median(part(v, k, k + tenth)));
  return best;
}

std::optional<double> begun_s(const source::Frame& frame) {
  const auto& at = frame.exposures.front().info.captured;
  return at ? std::optional(source::seconds_of(*at)) : std::nullopt;
}

}  // namespace askcount::audit
