// SPDX-License-Identifier: GPL-3.0-or-later
// The one kernel that draws: any picture in, any frame out.
#pragma once

#include <array>
#include <vector>

#include "image/resample_rows.h"
#include "image/sampling.h"
#include "image/tone.h"
#include "render/coded_rows.h"
#include "render/developing.h"
#include "render/row_loops.h"

namespace askcount::render {

/// Rows of linear light, four floats a pixel, that lie there already at the size of what is drawn.
struct Lying {
  image::Size size;
  image::Size to() const { return size; }
};

/// The rows of what is drawn, from the top: resampled, seen through a map, or as they lie.
template <typename Load, typename Take>
void rows_through(const image::Resampling& how, const Load& load, Take&& take) {
  image::resample_rows(how, load, take);
}
template <typename Load, typename Take>
void rows_through(const image::Sampling& how, const Load& load, Take&& take) {
  image::sample_rows(how, load, take);
}
template <typename Load, typename Take>
void rows_through(const Lying& how, const Load& load, Take&& take) {
  std::vector<float> row(4 * static_cast<size_t>(how.size.width));
  for (int y = 0; y < how.size.height; ++y) {
    load(y, row.data());
    take(y, row.data());
  }
}

/// Goes down the rows of what is drawn: loads source rows as linear light, each once, resamples down and
/// across, develops, and stores.
///
/// - Load: `const float* operator()(int row, float* room) const` gives the row's linear light, three floats a
///   pixel, in `room` or where it lies already.
/// - Store: `void operator()(int y, const Coded& above, const Coded& row)` takes row y; `above` is the one
///   before it, or the same at y = 0.
template <typename How, typename Load, typename Store>
void draw_rows(const How& how, const Load& load, const Developing& developing, Store&& store) {
  const int wide = how.to().width, high = how.to().height;
  CodedRows rows(static_cast<size_t>(wide), developing.crispness());
  std::vector<int> places(4 * static_cast<size_t>(wide));
  rows_through(how, load, [&](int y, float* row) {
    developing.lighten(row, y);
    table_places(row, places.data(), 4 * wide);
    const Coded coded = rows.next(y);
    code_row(places.data(), developing.tables(), coded, wide);
    developing.colour(coded);
    rows.pass(y, high, store);
  });
}

/// Loads the rows of 8-bit pictures.
class LoadCoded {
 public:
  explicit LoadCoded(const image::Coded8& picture) : picture_(picture) {}
  const float* operator()(int row, float* room) const {
    to_linear(picture_.row(row), image::linear_of_code().data(), room, 3 * picture_.size.width);
    return room;
  }

 private:
  const image::Coded8& picture_;
};

/// Loads the rows of linear pictures: they are there already.
class LoadLinear {
 public:
  explicit LoadLinear(const image::Linear32& picture) : picture_(picture) {}
  const float* operator()(int row, float*) const { return picture_.row(row); }

 private:
  const image::Linear32& picture_;
};

/// Calls `use` with the way to load a picture's rows, by its kind.
template <typename Use>
void with_loading(const image::Picture& picture, const Use& use) {
  if (const auto* coded = std::get_if<image::Coded8>(&picture))
    use(LoadCoded(*coded));
  else
    use(LoadLinear(std::get<image::Linear32>(picture)));
}

}  // namespace askcount::render
