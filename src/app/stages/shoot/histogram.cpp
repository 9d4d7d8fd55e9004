// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/histogram.h"

#include <algorithm>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {

Histogram::Histogram(QWidget* parent) : QWidget(parent) {
  setFixedHeight(54);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setAccessibleName(say_q("Spread of tones"));
}

void Histogram::set(const QImage& image) {
  bins_.fill(0);
  long long n = 0, dark = 0, bright = 0;
  const QImage plain = image.convertToFormat(QImage::Format_RGB32);
  for (int y = 0; y < plain.height(); y += 2) {
    const auto* line = reinterpret_cast<const QRgb*>(plain.constScanLine(y));
    for (int x = 0; x < plain.width(); x += 2, ++n) {
      const int most = std::max({qRed(line[x]), qGreen(line[x]), qBlue(line[x])});
      ++bins_[static_cast<size_t>(qGray(line[x]) / 4)];
      bright += most >= 254;
      dark += most <= 2;
    }
  }
  dark_ = n > 0 ? static_cast<double>(dark) / static_cast<double>(n) : 0;
  bright_ = n > 0 ? static_cast<double>(bright) / static_cast<double>(n) : 0;
  update();
}

void Histogram::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  p.fillRect(rect(), c.well);
  const int most = std::max(1, *std::max_element(bins_.begin(), bins_.end()));
  const double wide = width() / static_cast<double>(bins_.size());
  for (size_t i = 0; i < bins_.size(); ++i) {
    const double high = std::min(1.0, 1.2 * bins_[i] / most) * (height() - 4);
    p.fillRect(QRectF(static_cast<double>(i) * wide, height() - high, wide + 0.5, high), c.body);
  }
  if (bright_ > 0.002) p.fillRect(QRectF(width() - 5, 0, 5, height()), c.stop);
  if (dark_ > 0.02) p.fillRect(QRectF(0, 0, 5, height()), c.warning);
}

}  // namespace askcount::app
