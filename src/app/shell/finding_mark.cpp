// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/finding_mark.h"

#include <QPolygonF>

#include "app/style/style.h"

namespace askcount::app {

void draw_mark(QPainter& p, Severity severity, const QPointF& at) {
  p.save();
  p.setRenderHint(QPainter::Antialiasing);
  p.translate(at);
  const Colours& c = colours();
  switch (severity) {
    case Severity::Caution:  // an eye kept open: a ring with a dot
      p.setPen(QPen(c.ink, 1.8));
      p.setBrush(Qt::NoBrush);
      p.drawEllipse(QPointF(6.5, 9.5), 5.2, 5.2);
      p.setBrush(c.ink);
      p.setPen(Qt::NoPen);
      p.drawEllipse(QPointF(6.5, 9.5), 1.8, 1.8);
      break;
    case Severity::Ok:
      p.setPen(QPen(c.ok, 2.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
      p.drawPolyline(QPolygonF({{1.5, 10}, {5, 13.5}, {11, 6}}));
      break;
    case Severity::Warning:
      p.setPen(Qt::NoPen);
      p.setBrush(c.warning);
      p.drawPolygon(QPolygonF({{6.5, 4}, {12.5, 15}, {0.5, 15}}));
      break;
    case Severity::Stop:
      p.setPen(QPen(c.stop, 2.8, Qt::SolidLine, Qt::RoundCap));
      p.drawLine(QPointF(2, 5), QPointF(11, 14));
      p.drawLine(QPointF(11, 5), QPointF(2, 14));
      break;
  }
  p.restore();
}

}  // namespace askcount::app
