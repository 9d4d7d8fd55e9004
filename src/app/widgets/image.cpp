#include "app/widgets/image.h"

#include <cstring>

namespace askcount::app {

QImage image_of(const image::Coded8& p) {
  QImage image(p.size.width, p.size.height, QImage::Format_RGB888);
  for (int y = 0; y < p.size.height; ++y)
    std::memcpy(image.scanLine(y), p.row(y), static_cast<size_t>(p.size.width) * 3);
  return image;
}

}  // namespace askcount::app
