// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/press_button.h"

#include <QPainter>

#include "app/style/style.h"

namespace askcount::app {

PressButton::PressButton(const QString& text, bool main, QWidget* parent)
    : QPushButton(text, parent), main_(main) {
  setFont(word_font(main ? 11 : 9, QFont::DemiBold));
  setCursor(Qt::PointingHandCursor);
  setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

QSize PressButton::sizeHint() const {
  const QFontMetrics m = fontMetrics();
  return {m.horizontalAdvance(text()) + (main_ ? 36 : 18), m.height() + (main_ ? 16 : 6)};
}

void PressButton::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  const QColor edge = isEnabled() ? c.field : c.line;
  const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
  p.setPen(QPen(edge, hasFocus() ? 2.4 : 1.2));
  p.setBrush(main_ && isEnabled() ? (isDown() ? edge.darker(120) : edge) : (isDown() ? c.column : c.card));
  p.drawRoundedRect(box, 3, 3);
  p.setPen(!isEnabled() ? c.muted
           : main_      ? (current_lighting() == Lighting::Lamp ? c.paper : c.on_fill)
                        : c.field);
  p.setFont(font());
  p.drawText(rect(), Qt::AlignCenter, text());
}

}  // namespace askcount::app
