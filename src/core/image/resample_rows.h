// SPDX-License-Identifier: GPL-3.0-or-later
// Resampling row by row: any source of rows in, linear light out.
#pragma once

#include <vector>

#include "image/resample.h"
#include "image/row_weights.h"

namespace askcount::image {

/// Goes down the rows of the resampled picture, with no more of the source in memory than a row needs.
///
/// - Load: `const float* operator()(int row, float* room) const` gives a source row's linear light, three
/// floats
///   a pixel, in `room` or where it lies already. Each is asked for once, from the top.
/// - Take: `void operator()(int y, float* row)` takes row y, four floats a pixel, the last of no meaning.
template <typename Load, typename Take>
void resample_rows(const Resampling& how, const Load& load, Take&& take) {
  const Taps &across = how.across(), &down = how.down();
  const int in_wide = 3 * how.from().width;
  const int ring = down.taps + 1;  // source rows that are still wanted
  std::vector<float> rows(static_cast<size_t>(ring) * static_cast<size_t>(in_wide));
  std::vector<int> in_ring(static_cast<size_t>(ring), -1);
  std::vector<const float*> ring_rows(static_cast<size_t>(ring)), taps(static_cast<size_t>(down.taps));
  std::vector<float> column(static_cast<size_t>(in_wide) + 4), out(4 * static_cast<size_t>(how.to().width));
  for (int y = 0; y < how.to().height; ++y) {
    const float* weights = down.weights.data() + static_cast<size_t>(y) * static_cast<size_t>(down.taps);
    int first = down.first[static_cast<size_t>(y)], count = down.taps;
    while (count > 1 && weights[0] == 0) ++weights, ++first, --count;
    while (count > 1 && weights[count - 1] == 0) --count;
    for (int k = 0; k < count; ++k) {
      const int row = first + k;
      const auto slot = static_cast<size_t>(row % ring);
      if (in_ring[slot] != row) {
        ring_rows[slot] = load(row, rows.data() + slot * static_cast<size_t>(in_wide));
        in_ring[slot] = row;
      }
      taps[static_cast<size_t>(k)] = ring_rows[slot];
    }
    weigh_rows(taps.data(), weights, count, column.data(), in_wide);
    weigh_across(column.data(), across.first.data(), across.weights.data(), across.taps, out.data(),
                 how.to().width);
    take(y, out.data());
  }
}

}  // namespace askcount::image
