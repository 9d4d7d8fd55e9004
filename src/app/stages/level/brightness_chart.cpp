// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/brightness_chart.h"

#include <algorithm>
#include <cmath>
#include <QMouseEvent>
#include <QPainter>

#include "app/stages/film_axis.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"
#include "plan/rulers.h"

namespace askcount::app {
namespace {

constexpr double kClickLane = 17, kRuler = 20;
constexpr int kRoomForClicks = 66, kRoomForRuler = 130;  // pixels of height from which they are there

}  // namespace

BrightnessChart::BrightnessChart(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setMinimumHeight(44);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setCursor(Qt::SizeHorCursor);
  setObjectName("brightness");
  setAccessibleName(say_q("Brightness of every frame, as shot and levelled"));
  connect(&session.levelling, &Levelling::changed, this, qOverload<>(&QWidget::update));
  connect(&session.looking, &Looking::changed, this, [this] {
    if (!session_.levelling.evenness()) update();
  });
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
}

QRectF BrightnessChart::plot() const {
  return {kAxisLeft, 4, width() - kAxisLeft - kAxisRight,
          height() - click_lane() - (height() > kRoomForRuler ? kRuler : 0) - 8};
}

double BrightnessChart::click_lane() const {
  const auto& e = session_.levelling.evenness();
  return e && !e->clicks.empty() && height() > kRoomForClicks ? kClickLane : 0;
}

QPolygonF BrightnessChart::Axes::line(const std::vector<double>& values) const {
  // Many frames share a pixel in long takes: draw the extremes of each pixel's frames then.
  QPolygonF poly;
  const size_t n = values.size();
  const size_t stride = std::max<size_t>(1, n / static_cast<size_t>(std::max(1.0, box.width() * 1.5)));
  for (size_t i = 0; i < n; i += stride) {
    size_t least = i, most = i;
    for (size_t k = i; k < std::min(n, i + stride); ++k) {
      if (values[k] < values[least]) least = k;
      if (values[k] > values[most]) most = k;
    }
    for (const size_t k : {std::min(least, most), std::max(least, most)})
      if (poly.isEmpty() || k != i || stride > 1 || least == most)
        poly << QPointF(x(static_cast<double>(k)), y(values[k]));
  }
  return poly;
}

BrightnessChart::Axes BrightnessChart::draw_axes(QPainter& p, const std::vector<double>& one,
                                                 const std::vector<double>& other) const {
  Axes a;
  a.box = plot();
  a.frames = one.size();
  a.low = std::min(*std::min_element(one.begin(), one.end()), *std::min_element(other.begin(), other.end()));
  a.high = std::max(*std::max_element(one.begin(), one.end()), *std::max_element(other.begin(), other.end()));
  const double origin = one.front();  // stops from the first frame
  const double room = std::max(0.1, (a.high - a.low) * 0.08);
  a.low -= room;
  a.high += room;
  const Colours& c = colours();
  p.setFont(figure_font(8.5));
  double step = 0.25;
  while ((a.high - a.low) / step > std::min(6.0, a.box.height() / 16)) step *= 2;
  for (double s = std::ceil((a.low - origin) / step) * step; s <= a.high - origin; s += step) {
    const double at = a.y(s + origin);
    p.setPen(QPen(c.line, 0.6));
    p.drawLine(QPointF(a.box.left(), at), QPointF(a.box.right(), at));
    p.setPen(c.muted);
    const QString label =
        (s > 1e-9 ? "+" : "") + QString::fromStdString(format_number(s, 2)) + say_q(" stops");
    draw_fitted(p, QRectF(0, at - 8, kAxisLeft - 8, 16), Qt::AlignRight | Qt::AlignVCenter, label);
  }
  return a;
}

void BrightnessChart::draw_first(QPainter& p) const {
  const Looking& looking = session_.looking;
  if (looking.known() < 2) return;
  std::vector<double> stops;
  for (size_t i = 0; i < looking.look().frames.size(); ++i) {
    const inspect::Measures& m = looking.look().frames[i];
    const bool known = i < looking.known() && m.seen();
    stops.push_back(known ? static_cast<double>(m.stops) : stops.empty() ? 0 : stops.back());
  }
  const Axes axes = draw_axes(p, stops, stops);
  p.setClipRect(axes.box);
  p.setPen(QPen(colours().muted, 1));
  p.drawPolyline(axes.line(stops));
  p.setClipping(false);
  p.setFont(word_font(9));
  p.drawText(QPointF(axes.box.left() + 10, axes.box.bottom() - 8),
             say_q("as shot, as Gather saw it from small pictures; not measured exactly yet"));
}

void BrightnessChart::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  const QRectF box = plot();
  p.fillRect(box, c.well);
  if (!session_.levelling.evenness() || session_.levelling.evenness()->frames.empty()) return draw_first(p);
  const level::Evenness& e = *session_.levelling.evenness();
  const size_t n = e.frames.size();
  std::vector<double> as_shot;
  for (const level::Levelled& frame : e.frames) as_shot.push_back(frame.as_shot);
  const Axes axes = draw_axes(p, as_shot, e.after);
  const auto x = [&](double i) { return axes.x(i); };
  p.setClipRect(box);
  p.setPen(QPen(c.muted, 1));
  p.drawPolyline(axes.line(as_shot));
  const QColor level = current_lighting() == Lighting::Day ? c.film : c.here;
  p.setPen(QPen(level, 2.2));
  p.drawPolyline(axes.line(e.after));
  p.setClipping(false);
  p.setFont(word_font(9));
  p.setPen(c.muted);
  p.drawText(QPointF(box.left() + 10, box.bottom() - 8), say_q("as shot, in stops from the first frame"));
  const double as_shot_width =
      p.fontMetrics().horizontalAdvance(say_q("as shot, in stops from the first frame"));
  p.setPen(level);
  p.drawText(QPointF(box.left() + 34 + as_shot_width, box.bottom() - 8), say_q("levelled"));
  // Clicks of the dials: up for more light, down for less.
  const double lane = box.bottom() + 4, lane_height = click_lane();
  if (lane_height > 0) {
    p.fillRect(QRectF(box.left(), lane, box.width(), lane_height - 4), c.column);
    p.setPen(c.ink);
    p.setFont(word_font(9));
    draw_fitted(p, QRectF(0, lane - 1, kAxisLeft - 8, lane_height - 2), Qt::AlignRight | Qt::AlignVCenter,
                say_q("Clicks"));
  }
  p.setPen(Qt::NoPen);
  p.setBrush(c.ink);
  for (const level::Click& click : e.clicks) {
    const double at = box.left() + static_cast<double>(click.frame) / static_cast<double>(n) * box.width();
    const double up = click.recorded > 0 ? -5 : 5, middle = lane + lane_height / 2 - 2;
    p.drawPolygon(QPolygonF({{at - 4, middle - up}, {at + 4, middle - up}, {at, middle + up}}));
  }
  for (const level::Change& change : e.kept) {
    const double from = x(static_cast<double>(change.frame));
    if (change.frames > 1) {  // as long as it takes
      QColor over = c.warning;
      over.setAlpha(50);
      p.fillRect(
          QRectF(from, box.top(), x(static_cast<double>(change.frame + change.frames)) - from, box.height()),
          over);
    }
    p.setPen(QPen(c.warning, 1.6));
    p.drawLine(QPointF(from, box.top()), QPointF(from, box.bottom()));
  }
  // Film time.
  if (session_.document.sums() && height() > kRoomForRuler) {
    const double seconds = static_cast<double>(n) / session_.document.sums()->fps.value();
    p.setFont(figure_font(8.5));
    p.setPen(c.film);
    for (const double t : plan::film_ruler(seconds, static_cast<int>(box.width() / 70)).ticks()) {
      const double at = box.left() + t / seconds * box.width();
      p.drawLine(QPointF(at, lane + lane_height - 4), QPointF(at, lane + lane_height));
      const QString label = QString::fromStdString(format_length(t, 1));
      const double w = p.fontMetrics().horizontalAdvance(label);
      p.drawText(QPointF(std::min(at - w / 2, width() - w - 2), lane + lane_height + 14), label);
    }
  }
  p.setPen(QPen(c.here, 2));
  const double here = x(static_cast<double>(session_.playhead.at()));
  p.drawLine(QPointF(here, box.top()), QPointF(here, std::max(box.bottom(), lane + lane_height - 4)));
}

void BrightnessChart::scrub(QMouseEvent* event) {
  if (!(event->buttons() & Qt::LeftButton) || !session_.levelling.evenness()) return;
  const QRectF box = plot();
  const auto n = static_cast<double>(session_.levelling.evenness()->frames.size());
  session_.playhead.set(static_cast<long long>((event->position().x() - box.left()) / box.width() * n));
}

}  // namespace askcount::app

#include "moc_brightness_chart.cpp"
