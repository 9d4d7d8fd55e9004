#include "picture/pixels.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace askcount::picture {

Rect crop_to_shape(Size from, Size to) {
  Rect r{0, 0, from.width, from.height};
  const double wanted = to.shape();
  if (wanted <= 0 || from.shape() <= 0) return r;
  if (from.shape() > wanted)
    r.width = std::min(from.width, static_cast<int>(std::lround(from.height * wanted)));
  else
    r.height = std::min(from.height, static_cast<int>(std::lround(from.width / wanted)));
  r.width = std::max(1, r.width);
  r.height = std::max(1, r.height);
  r.x = (from.width - r.width) / 2 & ~1;
  r.y = (from.height - r.height) / 2 & ~1;
  return r;
}

Picture8 oriented(const Picture8& in, int orientation) {
  if (orientation <= 1 || orientation > 8) return in;
  const bool turned = orientation >= 5;
  Picture8 out(turned ? Size{in.size.height, in.size.width} : in.size);
  for (int y = 0; y < in.size.height; ++y)
    for (int x = 0; x < in.size.width; ++x) {
      int u = x, v = y;
      const int right = in.size.width - 1 - x, below = in.size.height - 1 - y;
      switch (orientation) {
        case 2:
          u = right;
          break;
        case 3:
          u = right, v = below;
          break;
        case 4:
          v = below;
          break;
        case 5:
          u = y, v = x;
          break;
        case 6:
          u = below, v = x;
          break;
        case 7:
          u = below, v = right;
          break;
        default:
          u = y, v = right;
          break;
      }
      std::memcpy(out.row(v) + 3 * u, in.row(y) + 3 * x, 3);
    }
  return out;
}

}  // namespace askcount::picture
