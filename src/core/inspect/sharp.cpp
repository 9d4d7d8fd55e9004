// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/sharp.h"

#include <algorithm>

#include "base/median.h"

namespace askcount::inspect {
namespace {

// In log2: how far the sharpest pixels stand out of the usual ones, and the energy of the finest detail
// against that of middle-sized detail. Blur of 1 pixel takes 1.5 from one and 3 from the other; their sum
// tells it in pictures of smooth things and of rough ones alike.
constexpr double kSharp = 0.8, kBlurred = -0.5, kNothing = 2.8;
// More fine detail than middle-sized is noise, as by night: then only points of light tell.
constexpr double kNoise = 0, kPoints = 3.4, kNoPoints = 3;

}  // namespace

double fineness(const Measures& frame) {
  double sum = 0;
  for (size_t p = 0; p < kParts; ++p) sum += static_cast<double>(frame.fine[p] - frame.coarse[p]);
  return sum / kParts;
}

std::optional<bool> is_sharp(const Look& look) {
  std::vector<double> points, fine;
  for (const Measures& m : look.frames) {
    if (!m.seen()) continue;
    points.push_back(static_cast<double>(m.points));
    fine.push_back(fineness(m));
  }
  if (points.empty()) return {};
  const double out = median(std::move(points)), detail = median(std::move(fine));
  const bool noisy = detail > kNoise;
  const double told = noisy ? out : out + detail;
  if (told >= (noisy ? kPoints : kSharp)) return true;
  if (told <= (noisy ? kNoPoints : kBlurred)) return false;
  if (out < kNothing && told < kSharp) return false;  // a little noise over a blur
  return {};
}

}  // namespace askcount::inspect
