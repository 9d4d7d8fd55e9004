// SPDX-License-Identifier: GPL-3.0-or-later
#include "look/table.h"

#include <algorithm>

#include "look/colour.h"
#include "look/tones.h"

namespace askcount::look {

Cube table_of(const Look& look, double as_shot_k, const std::string& name) {
  Cube cube;
  cube.name = name;
  cube.size = 33;
  const Matrix colours = colour_matrix(look, as_shot_k);
  const ToneCurve tones(look);
  const auto light = [&](int i) {
    return static_cast<double>(
        image::linear_of_code_value(static_cast<float>(i) / static_cast<float>(cube.size - 1)));
  };
  for (int b = 0; b < cube.size; ++b)
    for (int g = 0; g < cube.size; ++g)
      for (int r = 0; r < cube.size; ++r) {
        const Triple in = {light(r), light(g), light(b)};
        // As the rows are mixed: the nearer to white, the less.
        const double part = std::clamp((1 - *std::max_element(in.begin(), in.end())) * 5, 0.0, 1.0);
        const Triple mixed = times(colours, in);
        for (size_t c = 0; c < 3; ++c)
          cube.rgb.push_back(
              image::code_of_linear(static_cast<float>(tones(in[c] + (mixed[c] - in[c]) * part))));
      }
  return cube;
}

}  // namespace askcount::look
