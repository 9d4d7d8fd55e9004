// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/stage_bar.h"

#include <QAccessible>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {

StageBar::StageBar(QWidget* parent) : QWidget(parent) {
  setFixedHeight(42);
  setObjectName("stages");
  setAccessibleName(say_q("Stages"));
}

void StageBar::add_stage(int key, const QString& name) {
  stages_.push_back({key, name});
  update();
}
void StageBar::set_take(const QString& name) {
  take_ = name;
  update();
}
QString StageBar::current_words() const {
  return current_ >= 0 && current_ < static_cast<int>(stages_.size())
             ? stages_[static_cast<size_t>(current_)].name
             : QString();
}
void StageBar::set_current(int index) {
  current_ = index;
  QAccessibleValueChangeEvent told(this, current_words());
  QAccessible::updateAccessibility(&told);
  update();
}
void StageBar::set_done(const std::vector<bool>& done) {
  for (size_t i = 0; i < stages_.size() && i < done.size(); ++i) stages_[i].done = done[i];
  update();
}

std::vector<QRectF> StageBar::places() const {
  const QFontMetricsF name(word_font(10.5, QFont::Bold)), number(figure_font(7.5));
  std::vector<QRectF> list;
  double total = 0;
  for (const Entry& e : stages_) {
    const double w = number.horizontalAdvance(QString::number(e.key)) + name.horizontalAdvance(e.name) + 44;
    list.emplace_back(total, 0, w, height());
    total += w;
  }
  for (QRectF& r : list) r.translate(width() - total - 12, 0);
  return list;
}

QRectF StageBar::name_place() const {
  const double left = 18 + QFontMetricsF(word_font(11.5, QFont::Bold)).horizontalAdvance("Ask Count") + 12;
  const std::vector<QRectF> at = places();
  const double room = (at.empty() ? width() : at.front().left()) - left - 12;
  return {left, 0, std::max(40.0, std::min(room, QFontMetricsF(word_font(10)).horizontalAdvance(take_) + 24)),
          static_cast<double>(height())};
}

void StageBar::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  p.fillRect(rect(), c.bar);
  p.setPen(c.line);
  p.drawLine(0, height() - 1, width(), height() - 1);
  p.setPen(c.ink);
  p.setFont(word_font(11.5, QFont::Bold));
  p.drawText(QPointF(18, 26), "Ask Count");
  const std::vector<QRectF> at = places();
  const QRectF name = name_place();
  p.setFont(word_font(10));
  p.setPen(c.muted);
  const QString shown =
      p.fontMetrics().elidedText(take_, Qt::ElideRight, static_cast<int>(name.width()) - 16);
  p.drawText(QPointF(name.left(), 26), shown);
  p.setPen(QPen(c.muted, 1.4));
  const double x = name.left() + p.fontMetrics().horizontalAdvance(shown) + 7;
  p.drawPolyline(QPolygonF({{x, 20}, {x + 3.5, 23.5}, {x + 7, 20}}));
  for (size_t i = 0; i < stages_.size(); ++i) {
    const Entry& e = stages_[i];
    const bool here = static_cast<int>(i) == current_;
    p.setPen(c.muted);
    p.setFont(figure_font(7.5));
    p.drawText(QPointF(at[i].left() + 10, 23), QString::number(e.key));
    const double x = at[i].left() + 16 + p.fontMetrics().horizontalAdvance(QString::number(e.key));
    p.setFont(word_font(10.5, here ? QFont::Bold : QFont::Medium));
    p.setPen(here ? c.ink : c.muted);
    p.drawText(QPointF(x, 26), e.name);
    if (e.done && !here) {
      p.setPen(Qt::NoPen);
      p.setBrush(c.ok);
      p.drawEllipse(QPointF(x + p.fontMetrics().horizontalAdvance(e.name) + 9, 21.5), 3, 3);
    }
    if (here) {
      p.fillRect(QRectF(at[i].left(), height() - 5, at[i].width() / 2, 5), c.field);
      p.fillRect(QRectF(at[i].center().x(), height() - 5, at[i].width() / 2, 5), c.film_fill);
    }
  }
}

void StageBar::mousePressEvent(QMouseEvent* event) {
  if (name_place().contains(event->position()))
    return emit menu_asked(mapToGlobal(name_place().bottomLeft().toPoint()));
  const std::vector<QRectF> at = places();
  for (size_t i = 0; i < at.size(); ++i)
    if (at[i].contains(event->position())) emit chosen(static_cast<int>(i));
}

}  // namespace askcount::app

#include "moc_stage_bar.cpp"
