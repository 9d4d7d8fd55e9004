// SPDX-License-Identifier: GPL-3.0-or-later
// The last rows of a picture that is being drawn, as codes.
#pragma once

#include <vector>

#include "render/row_loops.h"

namespace askcount::render {

/// Keeps as many rows as chroma and crispness look back on, and hands each to a Store (see draw_rows) once it
/// is done: with crispness a row later, when the one below is there.
class CodedRows {
 public:
  CodedRows(std::size_t wide, float crispness)
      : wide_(wide), crispness_(crispness), coded_(9 * wide), crisp_(crispness != 0 ? 6 * wide : 0) {}

  /// Room for the codes of row y.
  Coded next(int y) { return row_of(coded_, y % 3); }

  /// Row y of `height` is there.
  template <typename Store>
  void pass(int y, int height, Store&& store) {
    if (crispness_ == 0) {
      store(y, next(y > 0 ? y - 1 : y), next(y));
      return;
    }
    if (y > 0) finish(y - 1, next(y), store);
    if (y == height - 1) finish(y, next(y), store);
  }

 private:
  Coded row_of(std::vector<float>& rows, int slot) const {
    float* r = rows.data() + static_cast<std::size_t>(slot) * 3 * wide_;
    return {r, r + wide_, r + 2 * wide_};
  }
  template <typename Store>
  void finish(int y, const Coded& below, Store&& store) {
    const Coded out = row_of(crisp_, y % 2);
    crisp_row(next(y > 0 ? y - 1 : y), next(y), below, crispness_, out, static_cast<int>(wide_));
    store(y, y > 0 ? row_of(crisp_, (y + 1) % 2) : out, out);
  }

  std::size_t wide_;
  float crispness_;
  std::vector<float> coded_, crisp_;
};

}  // namespace askcount::render
