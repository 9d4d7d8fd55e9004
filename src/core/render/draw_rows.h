// The one kernel that draws: any picture in, any frame out.
#pragma once

#include <array>
#include <vector>

#include "image/resample.h"
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
  const image::Taps &across = how.across(), &down = how.down();
  const int in_wide = 3 * how.from().width, out_wide = how.to().width;
  const auto wide = static_cast<size_t>(out_wide);
  const int ring = down.taps + 1;  // source rows that are still wanted
  std::vector<float> rows(static_cast<size_t>(ring) * static_cast<size_t>(in_wide));
  std::vector<int> in_ring(static_cast<size_t>(ring), -1);
  std::vector<const float*> ring_rows(static_cast<size_t>(ring)), taps(static_cast<size_t>(down.taps));
  std::vector<float> column(static_cast<size_t>(in_wide) + 4), resampled(4 * wide);
  CodedRows rows_out(wide, developing.crispness());
  std::vector<int> places(4 * wide);
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
    weigh_across(column.data(), across.first.data(), across.weights.data(), across.taps, resampled.data(),
                 out_wide);
    developing.lighten(resampled.data(), y);
    table_places(resampled.data(), places.data(), 4 * out_wide);
    const Coded row = rows_out.next(y);
    code_row(places.data(), developing.tables(), row, out_wide);
    developing.colour(row);
    rows_out.pass(y, how.to().height, store);
  }
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
