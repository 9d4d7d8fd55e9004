// SPDX-License-Identifier: GPL-3.0-or-later
// What several tests of kept answers make up, and how they write pictures down.
#pragma once

#include <array>
#include <cmath>

#include "base/json.h"
#include "dice.h"
#include "look/look.h"

namespace askcount::test {

/// A look with about half of its values off the neutral, by up to one.
inline look::Look made_up_look(Dice& dice) {
  look::Look look;
  for (const look::Lane& lane : look::lanes())
    if (dice.chance(0.5))
      look.*lane.value =
          dice.between(std::max(lane.least, lane.neutral - 1), std::min(lane.most, lane.neutral + 1));
  if (dice.chance(0.5)) look.warmth_k = dice.between(2500, 12000);
  if (dice.chance(0.3)) look.black = dice.between(-5, 5);
  return look;
}

/// The means of each colour in a grid of 4 × 3 parts of a picture, rows from the top.
template <class Picture>
std::array<double, 36> means_of_parts(const Picture& p) {
  std::array<double, 36> sum{}, count{};
  for (int y = 0; y < p.size.height; ++y)
    for (int x = 0; x < p.size.width; ++x)
      for (int c = 0; c < 3; ++c) {
        const auto i = static_cast<size_t>((y * 3 / p.size.height * 4 + x * 4 / p.size.width) * 3 + c);
        sum[i] += static_cast<double>(p.row(y)[3 * x + c]), count[i] += 1;
      }
  for (size_t i = 0; i < sum.size(); ++i) sum[i] = count[i] > 0 ? sum[i] / count[i] : 0;
  return sum;
}

}  // namespace askcount::test
