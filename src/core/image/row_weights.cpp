// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/row_weights.h"

#include <algorithm>
#include <cstring>

#include "image/clones.h"

namespace askcount::image {

using Four = float __attribute__((vector_size(16)));

/// Rows added up by their weights, all in one go over the row where they are few, as they nearly always are.
ASKCOUNT_CLONES void weigh_rows(const float* const* rows, const float* weights, int taps,
                                float* __restrict out, int n) {
  const float *a = rows[0], *b = rows[std::min(1, taps - 1)], *c = rows[std::min(2, taps - 1)];
  const float* d = rows[std::min(3, taps - 1)];
  const float wa = weights[0], wb = taps > 1 ? weights[1] : 0, wc = taps > 2 ? weights[2] : 0;
  const float wd = taps > 3 ? weights[3] : 0;
  if (taps <= 2)
    for (int i = 0; i < n; ++i) out[i] = a[i] * wa + b[i] * wb;
  else if (taps == 3)
    for (int i = 0; i < n; ++i) out[i] = a[i] * wa + b[i] * wb + c[i] * wc;
  else
    for (int i = 0; i < n; ++i) out[i] = a[i] * wa + b[i] * wb + c[i] * wc + d[i] * wd;
  for (int k = 4; k < taps; ++k) {
    const float w = weights[k];
    const float* r = rows[k];
    for (int i = 0; i < n; ++i) out[i] += r[i] * w;
  }
}

/// One row across: `in` has three floats a pixel (and room for one more at the end), `out` four.
ASKCOUNT_CLONES void weigh_across(const float* in, const int* first, const float* weights, int taps,
                                  float* __restrict out, int n) {
  const auto four_at = [](const float* p) {
    Four v;
    std::memcpy(&v, p, sizeof v);
    return v;
  };
  if (taps == 4) {
    for (int x = 0; x < n; ++x) {
      const float* p = in + 3 * first[x];
      const float* w = weights + 4 * x;
      const Four sum =
          (four_at(p) * w[0] + four_at(p + 3) * w[1]) + (four_at(p + 6) * w[2] + four_at(p + 9) * w[3]);
      std::memcpy(out + 4 * x, &sum, sizeof sum);
    }
    return;
  }
  for (int x = 0; x < n; ++x) {
    const float* p = in + 3 * first[x];
    const float* w = weights + x * taps;
    Four sum = {0, 0, 0, 0};
    for (int k = 0; k < taps; ++k, p += 3) sum += four_at(p) * w[k];
    std::memcpy(out + 4 * x, &sum, sizeof sum);
  }
}

}  // namespace askcount::image
