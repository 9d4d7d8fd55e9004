// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/motion_view.h"

#include <algorithm>
#include <cmath>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr double kAsIf_s = 8;  // across the screen, where nobody has said how fast it moves

}  // namespace

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
  if (playing() || !session_.document.sums()) {
    timer_.stop();
  } else {
    clock_.start();
    timer_.start(static_cast<int>(1000 / session_.document.sums()->fps.value()));
  }
  update();
}

/// Sizes on the screen.
struct MotionView::Drawn {
  double step, trail;  ///< what the subject goes on by from frame to frame, and while one is open
  double thick, y;
};

/// Over the person's own picture, where there is one; nothing is made up for it.
void MotionView::paint_ground(QPainter& p) {
  const QImage ground = shown_picture(session_.tests.first());
  if (ground.isNull()) return;
  const QSizeF whole = QSizeF(ground.size()).scaled(QSizeF(size()), Qt::KeepAspectRatioByExpanding);
  p.setOpacity(0.55);
  p.drawImage(QRectF(QPointF((width() - whole.width()) / 2, (height() - whole.height()) / 2), whole), ground);
  p.setOpacity(1);
}

/// The real thing where two test pictures have it: drawn a few times along its trail, each as faint as it was
/// short there.
void MotionView::paint_part(QPainter& p, const Drawn& d, double x, double strength) {
  const QImage part = shown_picture(session_.tests.part());
  const double part_scale = width() / session_.tests.part().text("width").toDouble();
  const double angle = session_.tests.motion() ? session_.tests.motion()->direction_deg : 0;
  const bool leftwards = angle > 90 && angle < 270;
  const QSizeF shown(part.width() * part_scale, part.height() * part_scale);
  const int times = std::clamp(static_cast<int>(d.trail / 2) + 1, 1, 9);
  for (int i = 0; i < times; ++i) {
    p.setOpacity(strength / times * (times > 1 ? 1.6 : 1.0));
    const double at = x + (times > 1 ? d.trail * i / (times - 1) : 0);
    p.drawImage(
        QRectF(QPointF(leftwards ? width() - at - shown.width() : at,
                       std::clamp(d.y - shown.height() / 2, 0.0, std::max(0.0, height() - shown.height()))),
               shown),
        part);
  }
  p.setOpacity(1);
}

/// One exposure: the subject smeared over its trail.
void MotionView::paint_exposure(QPainter& p, const Drawn& d, double x, double strength) {
  if (!session_.tests.part().isNull()) return paint_part(p, d, x, strength);
  const auto& [step, trail, thick, y] = d;
  QColor colour = colours().body;
  colour.setAlphaF(static_cast<float>(strength * thick / (thick + trail)));
  p.setPen(Qt::NoPen);
  p.setBrush(colour);
  p.drawRoundedRect(QRectF(x, y - thick / 2, thick + trail, thick), thick / 2, thick / 2);
  if (trail < thick) {
    colour.setAlphaF(static_cast<float>(strength));
    p.setBrush(colour);
    p.drawRoundedRect(QRectF(x + trail, y - thick / 2, thick - trail, thick), (thick - trail) / 2, thick / 2);
  }
}

/// Neighbouring frames as they would follow each other, so that step and trail can be compared.
void MotionView::paint_neighbours(QPainter& p, const Drawn& d) {
  const auto& [step, trail, thick, y] = d;
  const int shown = std::clamp(static_cast<int>((width() - 80) / std::max(step, 1.0)), 1, 7);
  const double x0 = 40;
  for (int i = 0; i < shown; ++i) paint_exposure(p, d, x0 + i * step, 0.35 + 0.65 * (i + 1) / shown);
  p.setPen(QPen(colours().ink, 1.4));
  p.drawLine(QPointF(x0, y - thick / 2 - 12), QPointF(x0 + std::max(trail, 1.0), y - thick / 2 - 12));
  p.setFont(word_font(8.5));
  p.drawText(QPointF(x0, y - thick / 2 - 17), say_q("trail"));
  p.drawLine(QPointF(x0, y + thick / 2 + 10), QPointF(x0 + std::max(step, 1.0), y + thick / 2 + 10));
  p.drawText(QPointF(x0, y + thick / 2 + 24), say_q("one step"));
}

void MotionView::paint_play(QPainter& p, FrameRate fps) {
  const Colours& c = colours();
  p.setFont(word_font(9, QFont::DemiBold));
  p.setPen(c.muted);
  const QString label =
      (playing() ? say_q("playing at ") : say_q("play at ")) + QString::fromStdString(frame_rate_words(fps));
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

void MotionView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  p.fillRect(rect(), c.scene);
  p.setFont(word_font(9));
  if (!session_.document.sums()) return;
  const plan::Sums& s = *session_.document.sums();
  const double share = s.step.value_or(1 / (kAsIf_s * s.fps.value())), step = share * width();
  const Drawn d{step, s.trail * step, std::min(28.0, height() * 0.2), height() * 0.42};
  paint_ground(p);
  if (playing()) {
    const double seconds = static_cast<double>(clock_.elapsed()) / 1000;
    const auto frame = static_cast<double>(static_cast<long long>(seconds * s.fps.value()));
    const double crossing = 1 / share;  // frames
    paint_exposure(p, d, std::fmod(frame, crossing) * step - d.thick / 2, 1);
  } else {
    paint_neighbours(p, d);
  }
  paint_play(p, s.fps);
  if (s.step) return;
  p.setFont(word_font(8.5));
  p.setPen(c.muted);
  p.drawText(QRectF(12, height() - 22, width() - 24, 18), Qt::AlignLeft | Qt::AlignVCenter,
             say_q("As if it crossed the screen in {} s: say how fast it moves to see its own pace.",
                   format_number(kAsIf_s, 0)));
}

}  // namespace askcount::app

#include "moc_motion_view.cpp"
