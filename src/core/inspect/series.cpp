// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/series.h"

#include <algorithm>
#include <cmath>

namespace askcount::inspect {

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

double best_of(const std::vector<double>& v, long least) {
  const long n = static_cast<long>(v.size()), tenth = std::max(least, n / 10);
  double best = n > 0 ? -1e9 : 0;
  for (long k = 0; k + tenth <= n; k += tenth) best = std::max(best, median(part(v, k, k + tenth)));
  return best;
}

std::vector<size_t> telling(const Look& look) {
  std::vector<size_t> frames;
  for (size_t n = 0; n < look.frames.size(); ++n)
    if (look.frames[n].seen() && look.frames[n].spread > 1.6F && look.frames[n].clipped < 0.3F)
      frames.push_back(n);
  return frames;
}

std::vector<double> over(const Look& look, const std::vector<size_t>& frames, const Parts Measures::*value,
                         size_t part) {
  std::vector<double> v;
  v.reserve(frames.size());
  for (const size_t n : frames) v.push_back(static_cast<double>((look.frames[n].*value)[part]));
  return v;
}

double light_of(const ingest::FoundTake& take, const Look& look, size_t n) {
  return static_cast<double>(look.frames[n].stops) -
         media::relative_stops((*take.frames)[n].info()).value_or(0);
}

std::optional<double> begun_s(const media::Frame& frame) {
  const auto& at = frame.exposures.front().info.captured;
  return at ? std::optional(media::seconds_of(*at)) : std::nullopt;
}

}  // namespace askcount::inspect
