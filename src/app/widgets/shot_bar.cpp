// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/shot_bar.h"

#include <algorithm>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/dials.h"
#include "base/units.h"

namespace askcount::app {

ShotBar::ShotBar(QWidget* parent) : QWidget(parent) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setMinimumHeight(96);
  setAccessibleName(say_q("One interval: shutter open, writing, free"));
}

void ShotBar::set(double open_s, double writing_s, double interval_s, bool at_most) {
  at_most_ = at_most;
  open_s_ = open_s;
  writing_s_ = writing_s;
  interval_s_ = interval_s;
  update();
}

void ShotBar::paintEvent(QPaintEvent*) {
  if (interval_s_ <= 0) return;
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  const auto words_of = [](double s) { return QString::fromStdString(format_length(s, s < 10 ? 2 : 1)); };
  // One interval and the opening of the next shot, so that start to start can be seen.
  const double shown = interval_s_ * 1.16, left = 0, wide = width() - 1.0;
  const auto x = [&](double s) { return left + std::min(s, shown) / shown * wide; };
  const double top = 34, high = 24;
  p.fillRect(QRectF(left, top, wide, high), c.card);
  const auto shot = [&](double at) {
    p.fillRect(QRectF(x(at), top, std::max(2.0, x(at + open_s_) - x(at)), high), c.field);
    QColor writing = c.field_fill;
    p.fillRect(QRectF(x(at + open_s_), top, x(at + open_s_ + writing_s_) - x(at + open_s_), high), writing);
  };
  shot(0);
  shot(interval_s_);
  p.setPen(c.line);
  p.setBrush(Qt::NoBrush);
  p.drawRect(QRectF(left, top, wide, high));
  // Interval above, gap below: each a line between its ends.
  const auto span = [&](double from, double to, double y, const QString& label, bool above) {
    p.setPen(QPen(c.ink, 1.3));
    p.drawLine(QPointF(x(from), y), QPointF(x(to), y));
    for (const double end : {from, to}) p.drawLine(QPointF(x(end), y - 4), QPointF(x(end), y + 4));
    p.setFont(word_font(9.5, QFont::DemiBold));
    const double w = p.fontMetrics().horizontalAdvance(label);
    const double at = std::clamp((x(from) + x(to) - w) / 2, 0.0, std::max(0.0, wide - w));
    p.drawText(QPointF(at, above ? y - 9 : y + 17), label);
  };
  span(0, interval_s_, 22, say_q("interval ") + words_of(interval_s_) + say_q(", start to start"), true);
  const double gap = interval_s_ - open_s_;
  if (gap > 0)
    span(open_s_, interval_s_, top + high + 10,
         QString(at_most_ ? say_q("gap at least ") : say_q("gap ")) + words_of(gap) + say_q(", end to start"),
         false);
  p.setFont(word_font(8.5));
  p.setPen(c.muted);
  const QString open = QString(at_most_ ? say_q("open up to ") : say_q("open ")) +
                       QString::fromStdString(dial_shutter_words(open_s_));
  if (x(open_s_) > p.fontMetrics().horizontalAdvance(open) + 8) {
    p.setPen(c.on_fill);
    p.drawText(QRectF(0, top, x(open_s_), high), Qt::AlignCenter, open);
  } else {
    p.drawText(QPointF(0, top + high + 27), open);
  }
  p.setPen(c.muted);
  const double free = gap - writing_s_;
  if (free > 0) {
    const QString label =
        say_q("writing ") + words_of(writing_s_) + say_q(", then ") + words_of(free) + say_q(" free");
    p.drawText(QRectF(x(open_s_ + writing_s_), top, x(interval_s_) - x(open_s_ + writing_s_), high),
               Qt::AlignCenter,
               p.fontMetrics().elidedText(label, Qt::ElideRight,
                                          static_cast<int>(x(interval_s_) - x(open_s_ + writing_s_)) - 8));
  }
}

}  // namespace askcount::app
