// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/gather/neighbour_strip.h"

#include <algorithm>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr int kAside = 2;                  // frames on either side
constexpr double kApart = 5, kWords = 17;  // pixels between pictures, and below them
constexpr int kRead = 160;                 // pixels across

}  // namespace

NeighbourStrip::NeighbourStrip(Session& session, FramePictures& pictures, QWidget* parent)
    : QWidget(parent), session_(session), pictures_(pictures) {
  setObjectName("neighbours");
  setAccessibleName(say_q("The frame between its neighbours"));
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setCursor(Qt::PointingHandCursor);
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
  connect(&session.frames, &Frames::changed, this, qOverload<>(&QWidget::update));
  connect(&pictures, &FramePictures::ready, this, qOverload<>(&QWidget::update));
}

QRectF NeighbourStrip::place(int of) const {
  const double wide = (width() - 2 * kAside * kApart) / (2 * kAside + 1);
  return {(of + kAside) * (wide + kApart), 0, wide, height() - kWords};
}

void NeighbourStrip::paintEvent(QPaintEvent*) {
  if (!session_.frames.gathered()) return;
  QPainter p(this);
  p.setRenderHints(QPainter::SmoothPixmapTransform | QPainter::Antialiasing);
  const Colours& c = colours();
  const media::Frames frames = session_.frames.list();
  p.setFont(figure_font(8.5));
  for (int of = -kAside; of <= kAside; ++of) {
    const long long n = session_.playhead.at() + of;
    if (n < 0 || n >= static_cast<long long>(frames->size())) continue;
    const QRectF at = place(of);
    const QImage picture = pictures_.picture((*frames)[static_cast<size_t>(n)], kRead);
    p.fillRect(at, c.well);
    QRectF shown = at;
    if (!picture.isNull()) {
      const QSizeF fit = QSizeF(picture.size()).scaled(at.size(), Qt::KeepAspectRatio);
      shown = QRectF(QPointF(at.center().x() - fit.width() / 2, at.center().y() - fit.height() / 2), fit);
      p.drawImage(shown, shown_picture(picture));
    }
    if (of == 0) {
      p.setPen(QPen(c.here, 2));
      p.drawRect(shown.adjusted(1, 1, -1, -1));
    }
    p.setPen(of == 0 ? c.here : c.muted);
    p.drawText(QRectF(at.left(), at.bottom() + 1, at.width(), kWords - 1), Qt::AlignCenter,
               to_q(format_count(n + 1)));
  }
}

void NeighbourStrip::mousePressEvent(QMouseEvent* event) {
  for (int of = -kAside; of <= kAside; ++of) {
    const long long n = session_.playhead.at() + of;
    if (place(of).contains(event->position()) && n >= 0 && n < session_.playhead.count())
      return session_.playhead.set(n);
  }
}

}  // namespace askcount::app

#include "moc_neighbour_strip.cpp"
