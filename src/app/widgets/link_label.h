// SPDX-License-Identifier: GPL-3.0-or-later
// Words with links in them, whose focus is seen.
#pragma once

#include <QLabel>
#include <QPainter>

#include "app/style/style.h"

namespace askcount::app {

/// A label whose links are followed with the mouse or with Tab and Return. A line stands under it while it
/// has the focus.
class LinkLabel : public QLabel {
  Q_OBJECT
 public:
  explicit LinkLabel(QWidget* parent) : QLabel(parent) {
    setTextFormat(Qt::RichText);
    setWordWrap(true);
    setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
  }

 protected:
  void paintEvent(QPaintEvent* event) override {
    QLabel::paintEvent(event);
    if (!hasFocus()) return;
    QPainter p(this);
    p.fillRect(0, height() - 2, width(), 2, colours().field);
  }
  void focusInEvent(QFocusEvent* event) override {
    QLabel::focusInEvent(event);
    update();
  }
  void focusOutEvent(QFocusEvent* event) override {
    QLabel::focusOutEvent(event);
    update();
  }
};

}  // namespace askcount::app
