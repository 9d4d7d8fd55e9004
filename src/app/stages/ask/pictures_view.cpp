// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/pictures_view.h"

#include <cmath>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"

namespace askcount::app {
namespace {

void draw_arrow(QPainter& p, QPointF from, QPointF to, double head) {
  p.drawLine(from, to);
  const double a = std::atan2(to.y() - from.y(), to.x() - from.x());
  for (const double turn : {2.6, -2.6})
    p.drawLine(to, to + head * QPointF(std::cos(a + turn), std::sin(a + turn)));
}

}  // namespace

PicturesView::PicturesView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("test pictures");
  setAccessibleName(say_q("Two test pictures; drag from where a thing was to where it is"));
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMinimumSize(200, 110);
  setCursor(Qt::CrossCursor);
  connect(&session.tests, &TestPictures::changed, this, qOverload<>(&QWidget::update));
}

QRectF PicturesView::picture_place() const {
  const QSizeF size = QSizeF(session_.tests.second().size()).scaled(this->size(), Qt::KeepAspectRatio);
  return {QPointF(0, (height() - size.height()) / 2), size};
}

void PicturesView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
  const Colours& c = colours();
  TestPictures& tests = session_.tests;
  if (tests.second().isNull()) {
    p.fillRect(rect(), c.column);
    p.setPen(c.muted);
    p.setFont(word_font(9.5));
    p.drawText(rect().adjusted(16, 0, -16, 0), Qt::AlignCenter | Qt::TextWordWrap,
               tests.busy() ? say_q("Reading the pictures…")
                            : say_q("Take two pictures of the subject from the tripod, some seconds apart, "
                                    "and choose them here."));
    return;
  }
  const QRectF at = picture_place();
  p.drawImage(at, shown_picture(tests.second()));
  const double scale = at.width() / tests.full().width;
  const auto place = [&](double x, double y) { return at.topLeft() + scale * QPointF(x, y); };
  const auto both = [&](QPointF a, QPointF b, double wide, double head) {
    p.setPen(QPen(QColor(0, 0, 0, 150), wide + 2, Qt::SolidLine, Qt::RoundCap));
    draw_arrow(p, a, b, head);
    p.setPen(QPen(c.answer, wide, Qt::SolidLine, Qt::RoundCap));
    draw_arrow(p, a, b, head);
  };
  if (tests.motion() && !from_)
    for (const motion::Arrow& a : tests.motion()->arrows)
      both(place(a.x, a.y), place(a.x + a.dx, a.y + a.dy), 1, 3.5);
  if (from_ && to_) both(*from_, *to_, 2.2, 8);
}

void PicturesView::mousePressEvent(QMouseEvent* event) {
  if (session_.tests.second().isNull() || !picture_place().contains(event->position())) return;
  from_ = to_ = event->position();
  update();
}

void PicturesView::mouseMoveEvent(QMouseEvent* event) {
  if (!from_) return;
  to_ = event->position();
  update();
}

void PicturesView::mouseReleaseEvent(QMouseEvent*) {
  if (!from_) return;
  const QRectF at = picture_place();
  const double scale = session_.tests.full().width / at.width();
  const QPointF a = (*from_ - at.topLeft()) * scale, b = (*to_ - at.topLeft()) * scale;
  from_.reset();
  if (std::hypot(b.x() - a.x(), b.y() - a.y()) > 2 * scale) session_.tests.mark(a.x(), a.y(), b.x(), b.y());
  update();
}

}  // namespace askcount::app
