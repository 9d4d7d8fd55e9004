// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/picture_place.h"

#include <QMouseEvent>
#include <QPainter>
#include <QTimer>

#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {

PicturePlace::PicturePlace(QWidget* picture, QWidget* parent) : QWidget(parent), picture_(picture) {
  picture->setParent(this);
  picture->installEventFilter(this);
  for (QWidget* part : picture->findChildren<QWidget*>()) part->installEventFilter(this);
}

QWidget* PicturePlace::lend() {
  lent_ = true;
  picture_->setParent(nullptr);
  update();
  return picture_;
}

void PicturePlace::take_back() {
  if (!lent_) return;
  lent_ = false;
  picture_->setParent(this);
  picture_->setGeometry(rect());
  picture_->show();
}

bool PicturePlace::eventFilter(QObject*, QEvent* event) {
  const bool twice = event->type() == QEvent::MouseButtonDblClick &&
                     static_cast<QMouseEvent*>(event)->button() == Qt::LeftButton;
  if (twice && !asked_) {  // once, though what contains a part sees the same press
    asked_ = true;
    QTimer::singleShot(0, this, [this] {
      asked_ = false;
      emit whole_screen_asked();
    });
  }
  return false;
}

void PicturePlace::resizeEvent(QResizeEvent*) {
  if (!lent_) picture_->setGeometry(rect());
}

void PicturePlace::paintEvent(QPaintEvent*) {
  if (!lent_) return;
  QPainter p(this);
  p.fillRect(rect(), colours().column);
  p.setPen(colours().muted);
  p.setFont(word_font(10));
  p.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap,
             say_q("The picture is in a window of its own. Click here to bring it back."));
}

void PicturePlace::mousePressEvent(QMouseEvent* event) {
  if (lent_ && event->button() == Qt::LeftButton) emit back_asked();
}

}  // namespace askcount::app

#include "moc_picture_place.cpp"
