// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/picture_first.h"

#include <algorithm>
#include <cmath>
#include <QEvent>

#include "app/style/style.h"

namespace askcount::app {
namespace {

constexpr int kBeside = 18, kAbove = 10;  // pixels between picture and side, and above what is below
constexpr int kLeastSide = 290;           // pixels that the side has in any case

int least_height(const QWidget& w) {
  return std::max(w.minimumHeight(), w.minimumSizeHint().height());
}

}  // namespace

PictureFirst::PictureFirst(QWidget* parent) : QWidget(parent) {}

void PictureFirst::set(QWidget* picture, QWidget* side, QWidget* below) {
  picture_ = picture;
  side_ = side;
  below_ = below;
  for (QWidget* w : {picture, side, below}) w->setParent(this);
  lay_out();
}

void PictureFirst::set_strip(QWidget* strip) {
  strip_ = strip;
  strip->setParent(this);
  lay_out();
}

void PictureFirst::set_shape(double shape) {
  shape = std::clamp(shape, 0.5, 3.0);
  if (shape == shape_) return;
  shape_ = shape;
  lay_out();
}

QSize PictureFirst::minimumSizeHint() const {
  if (!side_) return {0, 0};
  return {0, least_height(*side_) + kAbove + least_height(*below_)};
}

void PictureFirst::lay_out() {
  if (!picture_ || width() <= 0) return;
  const int strip = strip_ ? strip_->sizeHint().height() : 0;
  const int room = height() - kAbove - strip;
  const int least_below = least_height(*below_);
  const int wanted_below = std::max(least_below, below_->sizeHint().height());
  const double most_height = std::max(80, room - least_below);
  double wide = std::max(kShare * window()->width(), (room - wanted_below) * shape_);
  wide = std::min(wide, width() - kBeside - kLeastSide * std::max(1.0, type_scale()));
  double high = wide / shape_;
  if (high > most_height) {
    high = most_height;
    wide = high * shape_;
  }
  const int w = static_cast<int>(std::lround(wide)), h = static_cast<int>(std::lround(high));
  picture_->setGeometry(0, 0, w, h);
  if (strip_) strip_->setGeometry(0, h, w, strip);
  const int beside = width() - w - kBeside;
  // What is said beside it may be taller than a wide picture, and takes it from below.
  const int side_high =
      std::max(h + strip, std::min(least_height(*side_), static_cast<int>(std::lround(most_height)) + strip));
  side_->setGeometry(w + kBeside, 0, beside, side_high);
  const int top = side_high + kAbove;
  below_->setGeometry(0, top, width(), std::max(0, height() - top));
}

void PictureFirst::resizeEvent(QResizeEvent*) {
  lay_out();
}

bool PictureFirst::event(QEvent* event) {
  if (event->type() == QEvent::LayoutRequest) {
    updateGeometry();
    lay_out();
  }
  return QWidget::event(event);
}

}  // namespace askcount::app

#include "moc_picture_first.cpp"
