#include "gather/likeness.h"

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "source/frame_source.h"

namespace askcount::gather {

std::optional<Layout> layout_of(const source::Frame& frame) {
  if (!frame.readable()) return {};
  try {
    const image::Picture picture = source::any_source().small(frame);
    const image::Size size = image::size_of(picture);
    return image::measure_luminance(picture, {0, 0, size.width, size.height}).parts;
  } catch (const Error&) {
    return {};
  }
}

double correlation(const Layout& a, const Layout& b) {
  // Deep shadows are noise: nothing below −11 stops tells one scene from another.
  constexpr float kFloor = -11;
  const auto stops = [](float v) { return static_cast<double>(v < kFloor ? kFloor : v); };
  double ma = 0, mb = 0;
  for (size_t i = 0; i < a.size(); ++i) ma += stops(a[i]), mb += stops(b[i]);
  ma /= static_cast<double>(a.size());
  mb /= static_cast<double>(b.size());
  double ab = 0, aa = 0, bb = 0;
  for (size_t i = 0; i < a.size(); ++i) {
    ab += (stops(a[i]) - ma) * (stops(b[i]) - mb);
    aa += (stops(a[i]) - ma) * (stops(a[i]) - ma);
    bb += (stops(b[i]) - mb) * (stops(b[i]) - mb);
  }
  return aa > 0 && bb > 0 ? ab / std::sqrt(aa * bb) : 0;
}

bool is_blank(const Layout& layout) {
  const auto [low, high] = std::minmax_element(layout.begin(), layout.end());
  return *high - *low < 0.1F || *high < -10;
}

}  // namespace askcount::gather
