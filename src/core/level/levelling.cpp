#include "level/levelling.h"

#include <algorithm>
#include <cmath>

namespace askcount::level {
namespace {

constexpr double kVisibleChange =
    0.04;                            // stops of the mean below which a local change is left to the smoothing
constexpr double kSureChange = 6;    // spreads beyond which it is no accident
constexpr int kLocalAhead = 2;       // frames after a change that its spread is judged with
constexpr size_t kFewestParts = 12;  // of 192 that tell of a colour
constexpr double kClick = 1.0 / 6;   // stops: the least change of the record that is a click

/// The value at `c` of a line through values around it, weighted towards the middle (bisquare).
template <typename Value, typename Known>
double local_line(Value value, Known known, long c, long n, long reach) {
  const long low = std::max(0L, c - reach), high = std::min(n - 1, c + reach);
  double s0 = 0, s1 = 0, s2 = 0, t0 = 0, t1 = 0;
  for (long i = low; i <= high; ++i) {
    if (!known(i)) continue;
    const double x = static_cast<double>(i - c);
    const double u = x / static_cast<double>(reach + 1);
    const double w = (1 - u * u) * (1 - u * u);
    const double y = value(i);
    s0 += w;
    s1 += w * x;
    s2 += w * x * x;
    t0 += w * y;
    t1 += w * x * y;
  }
  if (s0 <= 0) return 0;
  const double det = s0 * s2 - s1 * s1;
  return det > 1e-9 * s0 * s0 ? (s2 * t0 - s1 * t1) / det : t0 / s0;
}

double median_of(std::vector<double>& v) {
  const auto middle = v.begin() + static_cast<long>(v.size() / 2);
  std::nth_element(v.begin(), middle, v.end());
  return *middle;
}

/// What most parts of the picture share of a change of colour; 0 where too few can be told.
double shared_change(const std::array<float, image::Luminance::kParts>& before,
                     const std::array<float, image::Luminance::kParts>& now) {
  std::vector<double> changes;
  for (size_t part = 0; part < now.size(); ++part)
    if (before[part] < image::Luminance::kUnknown && now[part] < image::Luminance::kUnknown)
      changes.push_back(static_cast<double>(now[part] - before[part]));
  if (changes.size() < kFewestParts) return 0;
  // The mean of those that agree: as deaf to what moves in some parts as their median, and steadier.
  const double middle = median_of(changes);
  std::vector<double> apart;
  for (const double c : changes) apart.push_back(std::abs(c - middle));
  const double usual = 3 * 1.4826 * median_of(apart) + 1e-9;
  double sum = 0, count = 0;
  for (const double c : changes)
    if (std::abs(c - middle) <= usual) sum += c, ++count;
  return sum / count;
}

/// Recorded exposure with holes filled by what was recorded before (or, at the start, after).
std::vector<double> filled(const std::vector<std::optional<double>>& exposures) {
  std::vector<double> out(exposures.size());
  double last = 0;
  for (const auto& e : exposures)
    if (e) {
      last = *e;
      break;
    }
  for (size_t i = 0; i < exposures.size(); ++i) out[i] = last = exposures[i].value_or(last);
  return out;
}

}  // namespace

Leveller::Leveller(const std::vector<std::optional<double>>& exposures, Smoothing smoothing)
    : smoothing_(smoothing), exposure_(filled(exposures)), joined_(exposures.size()) {
  const long n = static_cast<long>(exposure_.size());
  for (long i = 0; i < n; ++i)
    joined_[static_cast<size_t>(i)] = local_line([&](long k) { return exposure_[static_cast<size_t>(k)]; },
                                                 [](long) { return true; }, i, n, smoothing_.join_reach);
  local_.reserve(exposure_.size());
  local_step_.assign(exposure_.size(), 0.0);
  samples_.reserve(exposure_.size());
}

size_t Leveller::lookahead() const {
  return static_cast<size_t>(smoothing_.reach) + kLocalAhead;
}

void Leveller::add(const image::Luminance* luminance) {
  Sample s;
  if (!samples_.empty()) s.red = samples_.back().red, s.blue = samples_.back().blue;
  if (luminance) {
    s.known = true;
    s.stops = luminance->stops();
    if (any_) {
      size_t before = samples_.size();
      while (!samples_[before - 1].known) --before;
      std::vector<double> changes(luminance->parts.size());
      for (size_t b = 0; b < changes.size(); ++b)
        changes[b] = static_cast<double>(luminance->parts[b] - last_parts_[b]);
      s.apart = s.stops - samples_[before - 1].stops - median_of(changes);
    }
    if (any_) {
      s.red += shared_change(last_red_, luminance->red);
      s.blue += shared_change(last_blue_, luminance->blue);
    }
    last_parts_ = luminance->parts;
    last_red_ = luminance->red;
    last_blue_ = luminance->blue;
    any_ = true;
  }
  samples_.push_back(s);
}

void Leveller::settle_local(size_t until) {
  const size_t back = 2 * static_cast<size_t>(smoothing_.reach);
  for (size_t i = local_.size(); i <= until; ++i) {
    const size_t from = i > back ? i - back : 0;
    const size_t to = std::min(samples_.size(),
                               std::max<size_t>(i + kLocalAhead + 1, static_cast<size_t>(smoothing_.reach)));
    std::vector<double> spread;
    for (size_t k = from; k < to; ++k)
      if (samples_[k].known && k > 0) spread.push_back(std::abs(samples_[k].apart));
    const double sigma = spread.size() > 4 ? 1.4826 * median_of(spread) : 1e9;
    const double d = samples_[i].apart;
    const double turned = i > 0 ? std::abs(exposure_[i] - exposure_[i - 1]) : 0;
    // A click makes clipped and dark parts change less than the rest: that is the click's doing, not a
    // lamp's.
    const bool of_click = turned >= kClick && std::abs(d) < turned;
    const bool real = !of_click && std::abs(d) > std::max(kVisibleChange, kSureChange * sigma);
    local_step_[i] = real ? d : 0;
    local_.push_back((i > 0 ? local_[i - 1] : 0) + local_step_[i]);
  }
}

Levelled Leveller::level(size_t n) {
  const size_t last = std::min(n + static_cast<size_t>(smoothing_.reach), exposure_.size() - 1);
  settle_local(last);
  const double light = local_line(
      [&](long i) {
        const auto k = static_cast<size_t>(i);
        return samples_[k].stops - exposure_[k] - local_[k];
      },
      [&](long i) { return samples_[static_cast<size_t>(i)].known; }, static_cast<long>(n),
      static_cast<long>(last) + 1, smoothing_.reach);
  Levelled out;
  out.target = light + local_[n] + joined_[n];
  out.as_shot = samples_[n].known ? samples_[n].stops : out.target;
  const auto smooth = [&](double Sample::*colour) {
    return local_line([&](long i) { return samples_[static_cast<size_t>(i)].*colour; },
                      [&](long i) { return samples_[static_cast<size_t>(i)].known; }, static_cast<long>(n),
                      static_cast<long>(last) + 1, smoothing_.reach);
  };
  if (samples_[n].known) {
    out.red = smooth(&Sample::red) - samples_[n].red;
    out.blue = smooth(&Sample::blue) - samples_[n].blue;
  }
  return out;
}

std::vector<Levelled> level_all(const std::vector<const image::Luminance*>& luminances,
                                const std::vector<std::optional<double>>& exposures, Smoothing smoothing) {
  Leveller leveller(exposures, smoothing);
  for (const image::Luminance* luminance : luminances) leveller.add(luminance);
  std::vector<Levelled> out;
  out.reserve(luminances.size());
  for (size_t n = 0; n < luminances.size(); ++n) out.push_back(leveller.level(n));
  return out;
}

double flicker(const std::vector<double>& stops) {
  const long n = static_cast<long>(stops.size());
  if (n < 3) return 0;
  const long width = std::min(11L, n);
  double sum = 0;
  for (long c = 0; c < n; ++c) {
    const long low = std::clamp(c - width / 2, 0L, n - width);
    // Least squares of a + b x + c x² by its normal equations, x from the frame in question.
    double s[5] = {}, t[3] = {};
    for (long i = low; i < low + width; ++i) {
      const double x = static_cast<double>(i - c),
                   y = stops[static_cast<size_t>(i)] - stops[static_cast<size_t>(c)];
      double p = 1;
      for (int k = 0; k < 5; ++k, p *= x) {
        s[k] += p;
        if (k < 3) t[k] += p * y;
      }
    }
    if (width < 4) continue;
    const double det = s[0] * (s[2] * s[4] - s[3] * s[3]) - s[1] * (s[1] * s[4] - s[3] * s[2]) +
                       s[2] * (s[1] * s[3] - s[2] * s[2]);
    const double at = (t[0] * (s[2] * s[4] - s[3] * s[3]) - s[1] * (t[1] * s[4] - s[3] * t[2]) +
                       s[2] * (t[1] * s[3] - s[2] * t[2])) /
                      det;
    sum += at * at;
  }
  return std::sqrt(sum / static_cast<double>(n));
}

std::vector<Click> find_clicks(const std::vector<double>& as_shot,
                               const std::vector<std::optional<double>>& exposures) {
  const std::vector<double> e = filled(exposures);
  std::vector<size_t> at;
  for (size_t i = 1; i < e.size(); ++i)
    if (std::abs(e[i] - e[i - 1]) >= kClick) at.push_back(i);
  std::vector<Click> clicks;
  for (size_t k = 0; k < at.size(); ++k) {
    const size_t low = std::max(k > 0 ? at[k - 1] : 0, at[k] > 6 ? at[k] - 6 : 0);
    const size_t high = std::min(k + 1 < at.size() ? at[k + 1] : e.size(), at[k] + 6);
    // The record taken out, the light is a line with a step at the click: least squares of both.
    double s[3][4] = {};
    for (size_t i = low; i < high; ++i) {
      const double row[3] = {1, static_cast<double>(i) - static_cast<double>(at[k]), i >= at[k] ? 1.0 : 0.0};
      for (int r = 0; r < 3; ++r) {
        for (int c = 0; c < 3; ++c) s[r][c] += row[r] * row[c];
        s[r][3] += row[r] * (as_shot[i] - e[i]);
      }
    }
    for (int r = 0; r < 2; ++r)
      for (int below = r + 1; below < 3; ++below) {
        const double f = s[r][r] != 0 ? s[below][r] / s[r][r] : 0;
        for (int c = r; c < 4; ++c) s[below][c] -= f * s[r][c];
      }
    const double recorded = e[at[k]] - e[at[k] - 1];
    clicks.push_back({at[k], recorded, recorded + (std::abs(s[2][2]) > 1e-9 ? s[2][3] / s[2][2] : 0)});
  }
  return clicks;
}

}  // namespace askcount::level
