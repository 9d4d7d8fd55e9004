// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/picture_view.h"

#include <algorithm>
#include <cmath>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"

namespace askcount::app {

int pixels_to_read(const QWidget& place) {
  constexpr int kStep = 320, kLeast = 640, kMost = 1920;
  const double across = place.width() * place.devicePixelRatioF();
  return std::clamp(static_cast<int>(std::ceil(across / kStep)) * kStep, kLeast, kMost);
}

PictureView::PictureView(QWidget* parent) : QWidget(parent) {
  setMinimumSize(160, 100);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void PictureView::set(const QImage& image, const QString& text) {
  if (image.isNull() && text.isEmpty()) return;  // keep the last one until the next is read
  image_ = image;
  words_ = text;
  update();
}

void PictureView::follow_pointer(std::function<void()> moved) {
  moved_ = std::move(moved);
  setMouseTracking(true);
}

void PictureView::mouseMoveEvent(QMouseEvent* event) {
  pointed_ = {std::clamp(event->position().x() / std::max(1, width()), 0.0, 1.0),
              std::clamp(event->position().y() / std::max(1, height()), 0.0, 1.0)};
  if (moved_) moved_();
}

QRect PictureView::picture_rect() const {
  if (image_.isNull()) return rect();
  const QSize size = image_.size().scaled(this->size(), Qt::KeepAspectRatio);
  return {QPoint((width() - size.width()) / 2, (height() - size.height()) / 2), size};
}

void PictureView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  if (image_.isNull()) {
    p.fillRect(rect(), c.column);
    p.setPen(c.muted);
    p.setFont(word_font(10));
    p.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap, words_);
    return;
  }
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  p.drawImage(picture_rect(), shown_picture(image_));
}

}  // namespace askcount::app
