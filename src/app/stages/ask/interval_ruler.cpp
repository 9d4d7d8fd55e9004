// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/interval_ruler.h"

#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPolygonF>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"
#include "forecast/shoot.h"
#include "plan/nudge.h"
#include "plan/rulers.h"
#include "plan/subject.h"

namespace askcount::app {
namespace {

constexpr double kTop = 36, kHeight = 26, kSide = 28;

}  // namespace

IntervalRuler::IntervalRuler(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setMinimumHeight(106);
  setFocusPolicy(Qt::StrongFocus);
  setObjectName("interval ruler");
  say_keys();
  setAccessibleName(say_q("Interval, on a logarithmic ruler"));
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
}

double IntervalRuler::x_of(double interval) const {
  return kSide + plan::interval_place(interval) * (width() - 2 * kSide);
}

void IntervalRuler::paint_track(QPainter& p) {
  const Colours& c = colours();
  const QRectF track(kSide, kTop, width() - 2 * kSide, kHeight);
  p.fillRect(track, c.card);
  p.setPen(c.line);
  p.drawRect(track);
  p.setFont(figure_font(8.5));
  for (const double t : {0.5, 1.0, 2.0, 5.0, 10.0, 30.0, 60.0, 300.0, 900.0, 3600.0}) {
    const double x = x_of(t);
    p.setPen(c.muted);
    p.drawLine(QPointF(x, track.bottom()), QPointF(x, track.bottom() + 5));
    const QString label = QString::fromStdString(format_length(t));
    p.drawText(QPointF(x - p.fontMetrics().horizontalAdvance(label) / 2.0, track.bottom() + 19), label);
  }
}

/// What cannot be, hatched, from one interval to another, and why.
void IntervalRuler::paint_closed(QPainter& p, double from, double to, const QString& why, double words_at) {
  const Colours& c = colours();
  QColor hatch = c.stop;
  hatch.setAlphaF(0.55F);
  p.fillRect(QRectF(from, kTop, to - from, kHeight), QBrush(hatch, Qt::BDiagPattern));
  p.setPen(c.stop);
  p.setFont(word_font(8.5));
  p.drawText(QPointF(words_at < 0 ? to - p.fontMetrics().horizontalAdvance(why) : words_at, kTop - 7), why);
}

/// Too short for the shutter and for writing; longer than the batteries last.
void IntervalRuler::paint_limits(QPainter& p, const plan::Sums& s) {
  const take::Take& take = session_.document.take();
  const double left = kSide, right = width() - kSide;
  // What was wished; of a shutter that nobody asked for what the light gives.
  const auto& exposure = *session_.document.exposure();
  const Seconds shutter_s = exposure.offered ? exposure.longest_s : s.shutter_s;
  const double busy = forecast::cycle_of(take, shutter_s).shortest_interval_s();
  if (const double end = x_of(busy); end > left + 2)
    paint_closed(p, left, end,
                 say_q("camera still busy, up to ") + QString::fromStdString(format_length(busy, 1)),
                 left + 2);
  const auto longest = plan::longest_interval(s, take.kit, forecast::outing_of(take));
  if (longest && x_of(*longest) < right - 2)
    paint_closed(p, x_of(*longest), right,
                 say_q("batteries run out first, from ") + QString::fromStdString(format_length(*longest, 1)),
                 -1);
}

/// What is usual for this subject, each method a band.
void IntervalRuler::paint_habits(QPainter& p, const plan::Sums& s) {
  const Colours& c = colours();
  double written_to = 0;  // names stand side by side, never one over the other
  for (const plan::Habit& habit : plan::habits_for(
           session_.document.take().subject, {s.shutter_s, session_.document.take().body().writing_s})) {
    const QRectF band(x_of(habit.from_s), kTop + kHeight - 7, x_of(habit.to_s) - x_of(habit.from_s), 7);
    p.fillRect(band, c.field_fill);
    p.setFont(word_font(8));
    p.setPen(c.field);
    const QString label = say_q("%1, usual").arg(QString::fromStdString(habit.subject));
    const double w = p.fontMetrics().horizontalAdvance(label);
    const double left = std::max(written_to, std::clamp(band.center().x() - w / 2, 0.0, width() - w));
    p.drawText(QPointF(left, kTop + kHeight + 34), label);
    written_to = left + w + 14;
  }
}

/// Where each measured motion would have it.
void IntervalRuler::paint_measures(QPainter& p, const plan::Sums& s) {
  if (!s.screen_crossing_s) return;
  const Colours& c = colours();
  p.setFont(word_font(8));
  int row = 0;
  for (const plan::Measure& m : session_.document.take().measures) {
    const double at = x_of(plan::interval_for(m, *s.screen_crossing_s, s.fps.value()));
    p.setPen(QPen(c.ink, 2));
    p.drawLine(QPointF(at, kTop - 3), QPointF(at, kTop + kHeight + 3));
    const QString label = to_q(plan::measure_words(m.way));
    const double w = p.fontMetrics().horizontalAdvance(label);
    p.drawText(QPointF(std::clamp(at + (std::abs(at - x_of(s.interval_s)) < 14 ? 14 : 4), 0.0, width() - w),
                       kTop + 8 + 8 * (row++ % 2)),
               label);
  }
}

void IntervalRuler::paint_marker(QPainter& p, const plan::Sums& s) {
  const Colours& c = colours();
  const double x = x_of(s.interval_s);
  const QPolygonF marker({{x - 9, kTop - 7},
                          {x + 9, kTop - 7},
                          {x + 9, kTop + 14},
                          {x, kTop + kHeight + 1},
                          {x - 9, kTop + 14}});
  p.setPen(QPen(hasFocus() ? c.field : c.ink, hasFocus() ? 2.6 : 1.6));
  p.setBrush(c.answer);
  p.drawPolygon(marker);
  p.setPen(c.ink);
  p.setFont(word_font(9.5, QFont::DemiBold));
  const plan::Relation by = session_.document.solution().relation(plan::Slot::Interval);
  const QString why = by == plan::Relation::Wished    ? say_q(", as you said")
                      : by == plan::Relation::Field   ? say_q(", by field time")
                      : by == plan::Relation::Gap     ? say_q(", by shutter and gap")
                      : by == plan::Relation::SpeedUp ? say_q(", by crossing")
                      : by == plan::Relation::Step    ? say_q(", by step")
                                                      : "";
  const QString label = QString::fromStdString(format_length(s.interval_s)) + why;
  const double w = p.fontMetrics().horizontalAdvance(label);
  p.drawText(QPointF(std::clamp(x - w / 2, 0.0, width() - w), 14), label);
}

void IntervalRuler::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  paint_track(p);
  if (!session_.document.sums()) return;
  const plan::Sums& s = *session_.document.sums();
  paint_limits(p, s);
  paint_habits(p, s);
  paint_measures(p, s);
  paint_marker(p, s);
}

void IntervalRuler::drag_to(QMouseEvent* event) {
  if (!(event->buttons() & Qt::LeftButton)) return;
  const double share = (event->position().x() - kSide) / (width() - 2 * kSide);
  const double raw = plan::interval_at(share);
  // As fine as a usual timer can be told there.
  const double unit = raw < 10 ? 0.5 : raw < 60 ? 1 : raw < 300 ? 5 : 30;
  session_.document.edit(
      [&](take::Take& t) { t.wish(plan::Slot::Interval, std::max(0.5, std::round(raw / unit) * unit)); },
      "interval ruler");
}

void IntervalRuler::say_keys() {
  const auto step = [this](int by) {
    const double to = plan::nudged(plan::Slot::Interval, session_.document.sums()->interval_s, by);
    session_.document.edit([&](take::Take& t) { t.wish(plan::Slot::Interval, to); });
  };
  keys_.add(Qt::Key_Up, say_q("A longer interval"), [step] { step(1); });
  keys_.add(Qt::Key_Down, say_q("A shorter interval"), [step] { step(-1); });
}

void IntervalRuler::keyPressEvent(QKeyEvent* event) {
  if (!session_.document.sums() || !keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

}  // namespace askcount::app

#include "moc_interval_ruler.cpp"
