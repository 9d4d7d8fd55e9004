// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/gather/frame_lanes.h"

#include <algorithm>
#include <cmath>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr int kLanes = 6;
constexpr double kNames = 84, kAxis = 22, kBetween = 4;

QString lane_words(const inspect::Lane& lane, std::size_t frame) {
  const float v = frame < lane.values.size() ? lane.values[frame] : NAN;
  if (std::isnan(v)) return {};
  const int decimals = lane.unit == "%" ? 0 : 1;
  return QString::fromStdString(format_number(static_cast<double>(v), decimals)) + " " +
         (lane.unit.empty() ? QString() : to_q(say(lane.unit)));
}

}  // namespace

FrameLanes::FrameLanes(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMinimumHeight(108);
  setObjectName("lanes");
  setAccessibleName(say_q("What happened to every frame: beat, still, sharp, clear, alike and exposure"));
  connect(&session.looking, &Looking::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
}

QRectF FrameLanes::lane_rect(int lane) const {
  const double height = (this->height() - kAxis) / kLanes;
  return {kNames, lane * height, width() - kNames - 2, height - kBetween};
}

double FrameLanes::x_of(std::size_t frame) const {
  const double n = std::max<double>(1, static_cast<double>(session_.frames.list()->size()));
  return kNames + (static_cast<double>(frame) + 0.5) / n * (width() - kNames - 2);
}

long long FrameLanes::frame_at(double x) const {
  const double n = static_cast<double>(session_.frames.list()->size());
  return std::clamp(static_cast<long long>((x - kNames) / (width() - kNames - 2) * n), 0LL,
                    std::max(0LL, static_cast<long long>(n) - 1));
}

void FrameLanes::look_at(QMouseEvent* event) {
  if (event->buttons() & Qt::LeftButton && !session_.frames.list()->empty())
    session_.playhead.set(frame_at(event->position().x()));
}

void FrameLanes::draw_lane(QPainter& p, const inspect::Lane& lane, const QRectF& place) const {
  const Colours& c = colours();
  p.fillRect(place, c.card);
  p.setPen(c.ink);
  p.setFont(word_font(9.5));
  draw_fitted(p, QRectF(0, place.top(), kNames - 10, place.height()), Qt::AlignVCenter | Qt::AlignRight,
              QString::fromStdString(lane.name));
  const double span = std::max(1e-6, static_cast<double>(lane.high - lane.low));
  const auto y_of = [&](float v) {
    return place.bottom() - 4 - (static_cast<double>(v - lane.low) / span) * (place.height() - 8);
  };
  p.setPen(QPen(c.field, 1.4));
  const std::size_t n = lane.values.size();
  // As many as there are pixels: of more, the extremes of each pixel are drawn.
  if (n <= static_cast<std::size_t>(place.width()) && lane.kind == inspect::LaneKind::Beat) {
    p.setBrush(c.field);
    for (std::size_t k = 0; k < n; ++k)
      if (!std::isnan(lane.values[k])) p.drawEllipse(QPointF(x_of(k), y_of(lane.values[k])), 0.8, 0.8);
    return;
  }
  p.setBrush(Qt::NoBrush);
  const double per_pixel = static_cast<double>(n) / std::max(1.0, place.width());
  QPainterPath path;
  bool drawing = false;
  const std::size_t step = std::max<std::size_t>(1, static_cast<std::size_t>(per_pixel));
  for (std::size_t k = 0; k < n; k += step) {
    float low = NAN, high = NAN;
    for (std::size_t i = k; i < std::min(n, k + step); ++i) {
      if (std::isnan(lane.values[i])) continue;
      low = std::isnan(low) ? lane.values[i] : std::min(low, lane.values[i]);
      high = std::isnan(high) ? lane.values[i] : std::max(high, lane.values[i]);
    }
    if (std::isnan(low)) {
      drawing = false;
      continue;
    }
    const QPointF at(x_of(k), y_of(low));
    drawing ? path.lineTo(at) : path.moveTo(at);
    if (high > low) path.lineTo(QPointF(at.x(), y_of(high)));
    drawing = true;
  }
  p.drawPath(path);
}

void FrameLanes::draw_marks(QPainter& p) const {
  const Colours& c = colours();
  p.setFont(word_font(8));
  for (const inspect::Fault& f : session_.looking.faults()) {
    const QRectF place = lane_rect(static_cast<int>(inspect::lane_of(f.kind)));
    const double x = x_of(f.frame), end = f.kind == inspect::FaultKind::Missing ? x : x_of(f.last);
    const QColor colour = inspect::severity_of(f.kind) == Severity::Ok ? c.muted : c.warning;
    if (end - x > 6) {
      p.setPen(Qt::NoPen);
      QColor veil = colour;
      veil.setAlphaF(0.13F);
      p.fillRect(QRectF(x, place.top(), end - x, place.height()), veil);
    }
    if (f.kind == inspect::FaultKind::Missing) {
      p.setPen(QPen(colour, 1.2, Qt::DashLine));
      p.setBrush(Qt::NoBrush);
      p.drawRect(
          QRectF(x + 1, place.top() + 2, std::max(4.0, x_of(f.frame + 1) - x - 2), place.height() - 4));
    }
    p.setPen(Qt::NoPen);
    p.setBrush(colour);
    const double top = place.top() + 2;
    p.drawPolygon(QPolygonF({QPointF(x, top), QPointF(x + 5, top + 9), QPointF(x - 5, top + 9)}));
  }
}

void FrameLanes::draw_axis(QPainter& p) const {
  if (session_.frames.list()->empty()) return;
  p.setFont(figure_font(9));
  p.setPen(colours().field);
  const double y = height() - kAxis + 4;
  double written = 0;
  for (const inspect::Tick& tick :
       inspect::ticks_of(*session_.frames.gathered(), static_cast<int>((width() - kNames) / 95))) {
    const QString label = tick.at
                              ? QString::fromStdString(format_clock(Instant(tick.at->time_since_epoch()),
                                                                    "UTC", tick.with_seconds))
                              : QString::fromStdString(format_count(static_cast<long long>(tick.frame) + 1));
    const double w = p.fontMetrics().horizontalAdvance(label), x = x_of(tick.frame);
    p.drawLine(QPointF(x, y - 4), QPointF(x, y));
    const double left = std::clamp(x - w / 2, kNames - 10, width() - w - 1);
    if (left < written) continue;
    p.drawText(QRectF(left, y, w + 2, kAxis - 4), Qt::AlignLeft, label);
    written = left + w + 8;
  }
}

void FrameLanes::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  const auto& lanes = session_.looking.lanes();
  for (int i = 0; i < static_cast<int>(lanes.size()) && i < kLanes; ++i)
    draw_lane(p, lanes[static_cast<std::size_t>(i)], lane_rect(i));
  if (lanes.empty()) return;
  draw_marks(p);
  draw_axis(p);
  const double x = x_of(static_cast<std::size_t>(session_.playhead.at()));
  p.setPen(QPen(c.here, 1.6));
  p.drawLine(QPointF(x, 0), QPointF(x, height() - kAxis));
  // The values of the frame looked at, at the far side of the line.
  p.setFont(figure_font(8));
  for (int i = 0; i < static_cast<int>(lanes.size()) && i < kLanes; ++i) {
    const QString words =
        lane_words(lanes[static_cast<std::size_t>(i)], static_cast<std::size_t>(session_.playhead.at()));
    if (words.isEmpty()) continue;
    const double w = p.fontMetrics().horizontalAdvance(words) + 6;
    const QRectF place = lane_rect(i);
    const QRectF box(x + w + 8 < width() ? x + 4 : x - w - 4, place.bottom() - 15, w, 14);
    p.fillRect(box, c.card);
    p.setPen(c.ink);
    p.drawText(box, Qt::AlignCenter, words);
  }
}

bool FrameLanes::event(QEvent* event) {
  if (event->type() != QEvent::ToolTip) return QWidget::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  QString words;
  for (const inspect::Fault& f : session_.looking.faults())
    if (std::abs(x_of(f.frame) - help->pos().x()) < 7 &&
        lane_rect(static_cast<int>(inspect::lane_of(f.kind))).contains(help->pos()))
      words += (words.isEmpty() ? "" : "\n") +
               say_q("Frame %1: %2").arg(f.frame + 1).arg(QString::fromStdString(f.text));
  QToolTip::showText(help->globalPos(), words, this);
  return true;
}

}  // namespace askcount::app

#include "moc_frame_lanes.cpp"
