// The one kernel that draws: any picture in, any frame out.
#pragma once

#include <array>
#include <vector>

#include "image/resample_rows.h"
#include "image/tone.h"
#include "render/coded_rows.h"
#include "render/developing.h"
#include "render/row_loops.h"

namespace askcount::render {

/// Goes down the rows of what is drawn: loads source rows as linear light, each once, resamples down and
/// across, develops, and stores.
///
/// - Load: `const float* operator()(int row, float* room) const` gives the row's linear light, three floats a
///   pixel, in `room` or where it lies already.
/// - Store: `void operator()(int y, const Coded& above, const Coded& row)` takes row y; `above` is the one
///   before it, or the same at y = 0.
template <typename Load, typename Store>
void draw_rows(const image::Resampling& how, const Load& load, const Developing& developing, Store&& store) {
  const int wide = how.to().width, high = how.to().height;
  CodedRows rows(static_cast<size_t>(wide), developing.crispness());
  std::vector<int> places(4 * static_cast<size_t>(wide));
  image::resample_rows(how, load, [&](int y, float* row) {
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

}  // namespace askcount::render
