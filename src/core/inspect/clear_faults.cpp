// SPDX-License-Identifier: GPL-3.0-or-later
// Dew and fog: contrast that falls slowly, everywhere.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/language.h"
#include "base/units.h"
#include "inspect/faults.h"
#include "inspect/series.h"

namespace askcount::inspect {
namespace {

constexpr double kLeastTakeFall = 0.9;  // log2 of the energy of middle-sized detail
constexpr double kTexturedTake = -10;   // log2 of it that a part needs at the start
constexpr size_t kFewestFrames = 16;    // frames
constexpr long kStretch = 3;            // frames that are looked at together at least
constexpr double kLeastDip = 2;         // log2 of the energy of fine detail, where the contrast comes back
constexpr double kLessLight = 0.5;      // stops: a sun behind a cloud takes more than that away
constexpr double kMoreLight = 1.5;      // stops that a veil may add
constexpr double kOtherLight = 1;       // stops from the beginning to the end
constexpr double kFinestFirst = 0.4;    // log2 of energy
constexpr size_t kSlow = 5;             // frames that a fall takes at least: a lost focus comes at once
constexpr size_t kMostDips = 2;         // more than that are weather

/// Contrast that falls until the end of the take.
std::vector<Fault> falls_to_the_end(const ingest::FoundTake& take, const Look& look,
                                    const std::vector<size_t>& frame) {
  const long n = static_cast<long>(frame.size()), tenth = std::max(kStretch, n / 10);
  std::vector<double> falls, fine_falls;
  std::vector<size_t> textured;
  std::vector<std::vector<double>> coarse;
  for (size_t p = 0; p < kParts; ++p) {
    const std::vector<double> c = over(look, frame, &Measures::coarse, p),
                              f = over(look, frame, &Measures::fine, p);
    // The best a stretch of the take had, against its end.
    const double best = best_of(c, kStretch), best_fine = best_of(f, kStretch);
    if (best < kTexturedTake) continue;
    textured.push_back(p);
    falls.push_back(best - median(part(c, n - tenth, n)));
    fine_falls.push_back(best_fine - median(part(f, n - tenth, n)));
    coarse.push_back(c);
  }
  if (textured.size() < 3) return {};
  // Where the light goes, the shadows go with it; dew takes the finest detail first.
  const auto light = [&](long from, long to) {
    std::vector<double> v;
    for (long k = from; k < to; ++k) v.push_back(light_of(take, look, frame[static_cast<size_t>(k)]));
    return median(v);
  };
  const double gone = light(0, tenth) - light(n - tenth, n);
  if (std::abs(gone) > kOtherLight && median(fine_falls) < median(falls) + kFinestFirst) return {};
  const auto down = [&](double by) {
    size_t count = 0;
    for (size_t i = 0; i < falls.size(); ++i) count += falls[i] > by && fine_falls[i] > by ? 1 : 0;
    return static_cast<double>(count) / static_cast<double>(falls.size());
  };
  if (down(kLeastTakeFall) < 0.7) return {};
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
  const double high = best_of(smooth, kStretch);
  const double fall = high - end;
  if (fall < kLeastTakeFall) return {};
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
  return {{FaultKind::Dew, frame[begins], frame.back(), 1 - left, "share",
           say("Contrast falls slowly by {} % until the end: dew or fog on the lens?",
               format_number(100 * (1 - left), 0)),
           Remedy::LiftHaze}};
}

/// The middle of all parts that show something, smoothed over the frames.
std::vector<double> of_the_picture(const Look& look, const std::vector<size_t>& frame,
                                   const std::vector<size_t>& parts, const Parts Measures::*value) {
  std::vector<double> whole(frame.size()), smooth(frame.size());
  for (size_t k = 0; k < frame.size(); ++k) {
    std::vector<double> v;
    for (const size_t p : parts) v.push_back(static_cast<double>((look.frames[frame[k]].*value)[p]));
    whole[k] = median(v);
  }
  for (size_t k = 0; k < frame.size(); ++k)
    smooth[k] = median(part(whole, static_cast<long>(k) - 3, static_cast<long>(k) + 4));
  return smooth;
}

/// Contrast that falls slowly in the same light, until somebody wipes the lens, the fog goes or the take
/// ends.
std::vector<Fault> falls_in_the_same_light(const ingest::FoundTake& take, const Look& look,
                                           const std::vector<size_t>& frame) {
  // The half of the picture that shows most: an even sky has nothing to lose.
  std::vector<std::pair<double, size_t>> by_texture;
  for (size_t p = 0; p < kParts; ++p) {
    const double usual = median(over(look, frame, &Measures::coarse, p));
    if (usual > kTexturedTake) by_texture.emplace_back(-usual, p);
  }
  std::sort(by_texture.begin(), by_texture.end());
  std::vector<size_t> parts;
  for (size_t i = 0; i < std::min<size_t>(by_texture.size(), kParts / 2); ++i)
    parts.push_back(by_texture[i].second);
  if (parts.size() < 4) return {};
  const auto fine = of_the_picture(look, frame, parts, &Measures::fine),
             coarse = of_the_picture(look, frame, parts, &Measures::coarse);
  const auto light = [&](size_t k) { return light_of(take, look, frame[k]); };
  std::vector<Fault> found;
  for (size_t top = 0, k = 1; k < frame.size(); ++k) {
    if (fine[k] >= fine[top]) {
      top = k;
      continue;
    }
    if (fine[top] - fine[k] < kLeastDip) continue;
    // Down to the lowest, until most of it is back.
    size_t low = k, back = k;
    for (; back < frame.size() && fine[back] < fine[top] - 0.4 * (fine[top] - fine[low]); ++back)
      if (fine[back] < fine[low]) low = back;
    const bool ends = back == frame.size();
    const double fall = fine[top] - fine[low];
    const double stands = std::max(
        0.05 * fall, 2.5 * spread(part(fine, static_cast<long>(top) - 30, static_cast<long>(top) + 1)));
    size_t begins = top, lost = low;
    for (size_t i = top; i <= low; ++i) {
      if (fine[i] > fine[top] - stands) begins = i + 1;
      if (fine[i] < fine[top] - 0.7 * fall) {
        lost = i;
        break;
      }
    }
    size_t agree = 0;
    const auto middle = [&](const Parts Measures::*value, size_t p, size_t at) {
      std::vector<double> v;
      for (size_t i = at < 2 ? 0 : at - 2; i < std::min(frame.size(), at + 3); ++i)
        v.push_back(static_cast<double>((look.frames[frame[i]].*value)[p]));
      return median(v);
    };
    for (const size_t p : parts)
      agree += middle(&Measures::fine, p, top) - middle(&Measures::fine, p, low) > 0.4 * fall &&
                       middle(&Measures::coarse, p, top) - middle(&Measures::coarse, p, low) > 0.3
                   ? 1
                   : 0;
    if (agree * 10 >= parts.size() * 7 && coarse[top] - coarse[low] > 0.5 && lost >= begins + kSlow &&
        light(top) - light(low) < kLessLight && light(low) - light(top) < kMoreLight) {
      const double left = std::exp2(-(coarse[top] - coarse[low]) / 2);
      found.push_back(
          {FaultKind::Dew, frame[begins], frame[back - 1], 1 - left, "share",
           say("Contrast falls slowly by {} % {}: dew or fog on the lens?",
               format_number(100 * (1 - left), 0), ends ? say("until the end") : say("and comes back")),
           Remedy::LiftHaze});
    }
    top = back;
    k = back;
  }
  if (found.size() > kMostDips) found.clear();
  return found;
}

}  // namespace

std::vector<Fault> clear_faults(const ingest::FoundTake& take, const Look& look) {
  const std::vector<size_t> frame = telling(look);
  if (frame.size() < kFewestFrames) return {};
  std::vector<Fault> found = falls_to_the_end(take, look, frame);
  if (found.empty()) found = falls_in_the_same_light(take, look, frame);
  return found;
}

}  // namespace askcount::inspect
