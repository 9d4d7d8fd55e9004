// SPDX-License-Identifier: GPL-3.0-or-later
// The inner loops of resampling, over one row each.
#pragma once

namespace askcount::image {

/// Rows of `n` floats added up by their weights, all in one go where they are few, as they nearly always are.
void weigh_rows(const float* const* rows, const float* weights, int taps, float* __restrict out, int n);

/// One row across: `in` has three floats a pixel (and room for one more at the end), `out` four.
void weigh_across(const float* in, const int* first, const float* weights, int taps, float* __restrict out,
                  int n);

}  // namespace askcount::image
