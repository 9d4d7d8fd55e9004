// Dew, fog and drops: contrast that falls slowly, everywhere or in a place.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "audit/faults.h"
#include "audit/series.h"
#include "base/units.h"

namespace askcount::audit {
namespace {

constexpr double kLeastFall = 0.9;  // log2 of the energy of middle-sized detail
constexpr double kTextured = -10;   // log2 of it that a part needs at the start
constexpr size_t kFewest = 16;      // frames

}  // namespace

std::vector<Fault> clear_faults(const gather::FoundTake&, const Look& look) {
  std::vector<size_t> frame;
  for (size_t n = 0; n < look.frames.size(); ++n)
    if (look.frames[n].seen() && look.frames[n].spread > 1.6F && look.frames[n].clipped < 0.3F)
      frame.push_back(n);
  if (frame.size() < kFewest) return {};
  const long n = static_cast<long>(frame.size()), tenth = std::max(3L, n / 10);
  // Contrast of each part over the frames: middle-sized and fine detail together.
  const auto series = [&](size_t p, bool fine) {
    std::vector<double> v;
    for (const size_t f : frame) {
      const Measures& m = look.frames[f];
      v.push_back(static_cast<double>(fine ? m.fine[p] : m.coarse[p]));
    }
    return v;
  };
  std::vector<double> falls, fine_falls;
  std::vector<size_t> textured;
  std::vector<std::vector<double>> coarse;
  for (size_t p = 0; p < kParts; ++p) {
    const std::vector<double> c = series(p, false), f = series(p, true);
    // The best a stretch of the take had, against its end.
    double best = -1e9, best_fine = -1e9;
    for (long k = 0; k + tenth <= n; k += tenth) {
      best = std::max(best, median(part(c, k, k + tenth)));
      best_fine = std::max(best_fine, median(part(f, k, k + tenth)));
    }
    if (best < kTextured) continue;
    textured.push_back(p);
    falls.push_back(best - median(part(c, n - tenth, n)));
    fine_falls.push_back(best_fine - median(part(f, n - tenth, n)));
    coarse.push_back(c);
  }
  if (textured.size() < 3) return {};
  const auto down = [&](double by) {
    size_t count = 0;
    for (size_t i = 0; i < falls.size(); ++i) count += falls[i] > by && fine_falls[i] > by ? 1 : 0;
    return static_cast<double>(count) / static_cast<double>(falls.size());
  };
  if (down(kLeastFall) < 0.7) return {};
  // The whole picture's contrast over the frames; where its fall to the end began.
  std::vector<double> whole(frame.size());
  for (size_t k = 0; k < frame.size(); ++k) {
    std::vector<double> v;
    for (const auto& c : coarse) v.push_back(c[k]);
    whole[k] = median(v);
  }
  std::vector<double> smooth(frame.size());
  for (long k = 0; k < n; ++k) smooth[static_cast<size_t>(k)] = median(part(whole, k - 3, k + 4));
  const double end = median(part(smooth, n - tenth, n));
  double high = -1e9;
  for (long k = 0; k + tenth <= n; k += tenth) high = std::max(high, median(part(smooth, k, k + tenth)));
  const double fall = high - end;
  if (fall < kLeastFall) return {};
  // From the highest down to where it is low; it began where the way bends most.
  const size_t top = static_cast<size_t>(std::max_element(smooth.begin(), smooth.end()) - smooth.begin());
  size_t low = frame.size() - 1, begins = top;
  for (size_t k = top; k < frame.size(); ++k)
    if (smooth[k] < end + 0.15 * fall) {
      low = k;
      break;
    }
  double bend = -1e9;
  for (size_t k = top; k <= low && low > top; ++k) {
    const double along = static_cast<double>(k - top) / static_cast<double>(low - top);
    const double above = smooth[k] - (smooth[top] + (smooth[low] - smooth[top]) * along);
    if (above > bend) bend = above, begins = k;
  }
  if (low < begins + 5) return {};  // at once: that is something else
  const double left = std::exp2(-fall / 2);
  return {{"dew", frame[begins], frame.back(), 1 - left, "share", Severity::Warning,
           fmt::format("Contrast falls slowly by {} % until the end: dew or fog on the lens?",
                       format_number(100 * (1 - left), 0)),
           Remedy::LiftHaze}};
}

}  // namespace askcount::audit
