// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/image.h"

#include <algorithm>
#include <cstring>

namespace askcount::app {

QImage image_of(const image::Coded8& p) {
  QImage image(p.size.width, p.size.height, QImage::Format_RGB888);
  for (int y = 0; y < p.size.height; ++y)
    std::memcpy(image.scanLine(y), p.row(y), static_cast<size_t>(p.size.width) * 3);
  return image;
}

image::Coded8 coded_of(const QImage& picture) {
  const QImage rgb = picture.convertToFormat(QImage::Format_RGB888);
  image::Coded8 out(image::Size{rgb.width(), rgb.height()});
  for (int y = 0; y < rgb.height(); ++y)
    std::copy_n(rgb.constScanLine(y), static_cast<std::size_t>(rgb.width()) * 3, out.row(y));
  return out;
}

}  // namespace askcount::app
