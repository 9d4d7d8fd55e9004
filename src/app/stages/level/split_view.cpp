#include "app/stages/level/split_view.h"

#include <algorithm>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"

namespace askcount::app {

SplitView::SplitView(QWidget* parent) : QWidget(parent) {
  setMinimumSize(240, 150);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setCursor(Qt::SplitHCursor);
  setObjectName("split");
  setAccessibleName("The frame as shot and levelled");
}

void SplitView::set(const QImage& as_shot, const QImage& levelled) {
  if (!as_shot.isNull()) as_shot_ = as_shot;
  if (!levelled.isNull()) levelled_ = levelled;
  update();
}

QRect SplitView::place() const {
  const QSize size = as_shot_.size().scaled(this->size(), Qt::KeepAspectRatio);
  return {QPoint((width() - size.width()) / 2, (height() - size.height()) / 2), size};
}

void SplitView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  if (as_shot_.isNull()) {
    p.fillRect(rect(), c.column);
    return;
  }
  p.setRenderHints(QPainter::SmoothPixmapTransform | QPainter::Antialiasing);
  const QRect at = place();
  const int line = at.left() + static_cast<int>(split_ * at.width());
  p.drawImage(at, shown_picture(as_shot_));
  if (!levelled_.isNull()) {
    p.setClipRect(QRect(line, at.top(), at.right() - line + 1, at.height()));
    p.drawImage(at, shown_picture(levelled_));
    p.setClipping(false);
  }
  p.setPen(QPen(c.answer, 2));
  p.drawLine(line, at.top(), line, at.bottom());
  p.setFont(word_font(9, QFont::DemiBold));
  const auto label = [&](const QString& text, bool left) {
    const int w = p.fontMetrics().horizontalAdvance(text) + 12, h = p.fontMetrics().height() + 4;
    const QRect box(left ? line - w - 6 : line + 6, at.bottom() - h - 6, w, h);
    p.fillRect(box, QColor(0, 0, 0, 150));
    p.setPen(Qt::white);
    p.drawText(box, Qt::AlignCenter, text);
  };
  label("as shot", true);
  label("levelled", false);
}

void SplitView::drag(QMouseEvent* event) {
  if (as_shot_.isNull() || !(event->buttons() & Qt::LeftButton)) return;
  const QRect at = place();
  split_ = std::clamp((event->position().x() - at.left()) / at.width(), 0.02, 0.98);
  update();
}

}  // namespace askcount::app
