// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/motion_view.h"

#include <algorithm>
#include <cmath>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {

MotionView::MotionView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setMinimumHeight(110);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setCursor(Qt::PointingHandCursor);
  setObjectName("motion");
  setAccessibleName(say_q("How it will move; click or press Space to play"));
  timer_.setTimerType(Qt::PreciseTimer);
  connect(&timer_, &QTimer::timeout, this, qOverload<>(&QWidget::update));
  connect(&session.tests, &TestPictures::changed, this, qOverload<>(&QWidget::update));
  connect(&session.document, &Document::changed, this, [this] {
    if (playing() && session_.document.sums())
      timer_.start(static_cast<int>(1000 / session_.document.sums()->fps.value()));
    update();
  });
}

void MotionView::toggle() {
  if (playing() || !session_.document.sums() || !session_.document.sums()->step) {
    timer_.stop();
  } else {
    clock_.start();
    timer_.start(static_cast<int>(1000 / session_.document.sums()->fps.value()));
  }
  update();
}

void MotionView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  p.fillRect(rect(), c.scene);
  p.setFont(word_font(9));
  if (!session_.document.sums() || !session_.document.sums()->step) {
    p.setPen(c.muted);
    p.drawText(rect().adjusted(16, 0, -16, 0), Qt::AlignCenter | Qt::TextWordWrap,
               say_q("Say how long the subject takes to cross the frame, and its motion can be seen here."));
    return;
  }
  const plan::Sums& s = *session_.document.sums();
  const double step = *s.step * width(), trail = s.trail * step;
  const double thick = std::min(28.0, height() * 0.2), y = height() * 0.42;
  // Over the person's own picture, where there is one; nothing is made up for it.
  const QImage ground = shown_picture(session_.tests.first());
  if (!ground.isNull()) {
    const QSizeF whole = QSizeF(ground.size()).scaled(QSizeF(size()), Qt::KeepAspectRatioByExpanding);
    p.setOpacity(0.55);
    p.drawImage(QRectF(QPointF((width() - whole.width()) / 2, (height() - whole.height()) / 2), whole),
                ground);
    p.setOpacity(1);
  }
  const QColor body = c.body;
  // The real thing where two test pictures have it: drawn a few times along its trail, each as faint as it
  // was short there.
  const QImage part = shown_picture(session_.tests.part());
  const double part_scale = part.isNull() ? 0 : width() / session_.tests.part().text("width").toDouble();
  const double angle = session_.tests.motion() ? session_.tests.motion()->direction_deg : 0;
  const bool leftwards = angle > 90 && angle < 270;
  const auto draw_part = [&](double x, double strength) {
    const QSizeF shown(part.width() * part_scale, part.height() * part_scale);
    const int times = std::clamp(static_cast<int>(trail / 2) + 1, 1, 9);
    for (int i = 0; i < times; ++i) {
      p.setOpacity(strength / times * (times > 1 ? 1.6 : 1.0));
      const double at = x + (times > 1 ? trail * i / (times - 1) : 0);
      p.drawImage(
          QRectF(QPointF(leftwards ? width() - at - shown.width() : at,
                         std::clamp(y - shown.height() / 2, 0.0, std::max(0.0, height() - shown.height()))),
                 shown),
          part);
    }
    p.setOpacity(1);
  };
  // One exposure: the subject smeared over its trail.
  const auto draw = [&](double x, double strength) {
    if (part_scale > 0) return draw_part(x, strength);
    QColor colour = body;
    colour.setAlphaF(static_cast<float>(strength * thick / (thick + trail)));
    p.setPen(Qt::NoPen);
    p.setBrush(colour);
    p.drawRoundedRect(QRectF(x, y - thick / 2, thick + trail, thick), thick / 2, thick / 2);
    if (trail < thick) {
      colour.setAlphaF(static_cast<float>(strength));
      p.setBrush(colour);
      p.drawRoundedRect(QRectF(x + trail, y - thick / 2, thick - trail, thick), (thick - trail) / 2,
                        thick / 2);
    }
  };
  if (playing()) {
    const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
    const auto frame = static_cast<long long>(seconds * s.fps.value());
    const double crossing = 1 / *s.step;  // frames
    draw(std::fmod(static_cast<double>(frame), crossing) * step - thick / 2, 1);
  } else {
    // Neighbouring frames as they would follow each other, so that step and trail can be compared.
    const int shown = std::clamp(static_cast<int>((width() - 80) / std::max(step, 1.0)), 1, 7);
    const double x0 = 40;
    for (int i = 0; i < shown; ++i) draw(x0 + i * step, 0.35 + 0.65 * (i + 1) / shown);
    p.setPen(QPen(c.ink, 1.4));
    p.drawLine(QPointF(x0, y - thick / 2 - 12), QPointF(x0 + std::max(trail, 1.0), y - thick / 2 - 12));
    p.setFont(word_font(8.5));
    p.drawText(QPointF(x0, y - thick / 2 - 17), say_q("trail"));
    p.drawLine(QPointF(x0, y + thick / 2 + 10), QPointF(x0 + std::max(step, 1.0), y + thick / 2 + 10));
    p.drawText(QPointF(x0, y + thick / 2 + 24), say_q("one step"));
  }
  p.setFont(word_font(9, QFont::DemiBold));
  p.setPen(c.muted);
  const QString label = (playing() ? say_q("playing at ") : say_q("play at ")) +
                        QString::fromStdString(frame_rate_words(s.fps));
  const double w = p.fontMetrics().horizontalAdvance(label);
  p.drawText(QPointF(width() - w - 12, 20), label);
  p.setBrush(c.muted);
  p.setPen(Qt::NoPen);
  const double ax = width() - w - 26;
  if (playing()) {
    p.drawRect(QRectF(ax, 11, 3, 9));
    p.drawRect(QRectF(ax + 5, 11, 3, 9));
  } else {
    p.drawPolygon(QPolygonF({{ax, 11}, {ax + 8, 15.5}, {ax, 20}}));
  }
}

}  // namespace askcount::app
