// SPDX-License-Identifier: GPL-3.0-or-later
#include "level/part_flicker.h"

#include <algorithm>
#include <cmath>

#include "level/smoothing.h"

namespace askcount::level {
namespace {

using image::Field;
using image::Luminance;

constexpr size_t kBack = 40;                 // frames that tell what chance does
constexpr double kOutOfChance = 3;           // a term counts from this multiple of its variance by chance
constexpr double kLeast = 0.0015;            // stops: terms that vary by less are left alone
constexpr double kLeastField = 0.0025;       // stops, root mean square: less is not worth what a field costs
constexpr double kOfSecondDifference = 1.5;  // its variance, by that of the values
constexpr float kUnknown = Luminance::kUnknown;

}  // namespace

void PartFlicker::add(const Parts* stops) {
  Frame f;
  if (stops) {
    f.known = true;
    f.stops = *stops;
  }
  frames_.push_back(f);
}

void PartFlicker::leave_out(size_t n) {
  if (n < frames_.size()) frames_[n].known = false;
}

const FieldFit& PartFlicker::quick(size_t n, const std::vector<double>* exposure) {
  if (quick_.size() <= n) quick_.resize(n + 1), quick_there_.resize(n + 1, 0);
  if (quick_there_[n] == 0) {
    quick_there_[n] = 1;
    if (n > 0 && n + 1 < frames_.size() && frames_[n - 1].known && frames_[n].known && frames_[n + 1].known) {
      Parts values{};
      const float turned =
          exposure ? static_cast<float>((*exposure)[n] - ((*exposure)[n - 1] + (*exposure)[n + 1]) / 2) : 0;
      for (size_t p = 0; p < values.size(); ++p) {
        const float a = frames_[n - 1].stops[p], b = frames_[n].stops[p], c = frames_[n + 1].stops[p];
        values[p] = std::max({a, b, c}) < kUnknown / 2 ? b - (a + c) / 2 - turned : kUnknown;
      }
      quick_[n] = fit_field(values);
    }
  }
  return quick_[n];
}

Field PartFlicker::field(size_t n, const std::vector<double>* exposure, std::optional<double> whole) {
  Field out;
  if (!frames_[n].known) return out;
  const size_t from = n > kBack ? n - kBack : 1;
  const size_t until = std::min(frames_.size(), n + static_cast<size_t>(reach_));
  std::array<std::vector<double>, kTerms> seen;
  std::array<double, kTerms> chance{};
  for (size_t m = from; m + 1 < until; ++m) {
    const FieldFit& f = quick(m, exposure);
    if (!f.good) continue;
    for (size_t k = 0; k < kTerms; ++k) {
      seen[k].push_back(f.terms[k] * f.terms[k]);
      chance[k] += f.chance[k];
    }
  }
  if (seen[0].size() < 5) return out;
  // The median of squares is 0.455 of the variance (of a normal one): one event does not count.
  std::array<double, kTerms> part{};
  double all = 0;  // variance of what the field would do, as it is on average over the picture
  for (size_t k = 1; k < kTerms; ++k) {
    const double varies = median_of(seen[k]) / 0.455;
    const double by_chance = chance[k] / static_cast<double>(seen[k].size());
    if (varies > kLeast * kLeast) part[k] = std::max(0.0, 1 - kOutOfChance * by_chance / varies);
    const double mean_square = (k % Field::kAcross == 0 ? 1 : 0.5) * (k < Field::kAcross ? 1 : 0.5);
    all += part[k] * varies * mean_square / kOfSecondDifference;
  }
  if (all < kLeastField * kLeastField) return out;
  if (whole) part[0] = *std::max_element(part.begin() + 1, part.end());
  const auto weights = line_weights([&](long i) { return frames_[static_cast<size_t>(i)].known; },
                                    static_cast<long>(n), static_cast<long>(frames_.size()), reach_);
  Parts values{};
  double turned = whole.value_or(0);
  if (exposure) {
    turned -= (*exposure)[n];
    for (const auto& [i, w] : weights) turned += w * (*exposure)[static_cast<size_t>(i)];
  }
  for (size_t p = 0; p < values.size(); ++p) {
    double smooth = -turned;
    float most = frames_[n].stops[p];
    for (const auto& [i, w] : weights) {
      most = std::max(most, frames_[static_cast<size_t>(i)].stops[p]);
      smooth += w * static_cast<double>(frames_[static_cast<size_t>(i)].stops[p]);
    }
    values[p] = most < kUnknown / 2 ? static_cast<float>(smooth) - frames_[n].stops[p] : kUnknown;
  }
  const FieldFit f = fit_field(values);
  if (!f.good) return out;
  for (size_t k = 0; k < kTerms; ++k) out.stops[k] = static_cast<float>(part[k] * f.terms[k]);
  return out;
}

}  // namespace askcount::level
