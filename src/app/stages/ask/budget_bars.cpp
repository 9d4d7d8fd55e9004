// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/budget_bars.h"

#include <algorithm>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"
#include "forecast/shoot.h"

namespace askcount::app {

BudgetBars::BudgetBars(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMinimumHeight(110);
  setObjectName("budgets");
  setAccessibleName(say_q("Will it last: battery, card, timer, file numbers, shutter life"));
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
}

void BudgetBars::paintEvent(QPaintEvent*) {
  if (!session_.document.sums()) return;
  QPainter p(this);
  const Colours& c = colours();
  const take::Take& t = session_.document.take();
  const auto budgets = forecast::budgets_of(t, *session_.document.sums());
  // One axis of frames for all of them: from a tenth of the take to a hundred times it.
  const auto shots = static_cast<double>(plan::shots_of(*session_.document.sums()));
  const auto x_of = [&](double n) { return plan::budget_axis(n, shots) * width(); };
  const double row =
      std::min(34.0, (height() - 18) / static_cast<double>(std::max<size_t>(1, budgets.size())));
  for (size_t i = 0; i < budgets.size(); ++i) {
    const plan::Budget& b = budgets[i];
    const double top = static_cast<double>(i) * row;
    QString name = to_q(say(b.name));
    name[0] = name[0].toUpper();
    if (b.example) name += say_q(", an example");
    p.setFont(word_font(9, QFont::Medium));
    p.setPen(b.example ? c.muted : c.ink);
    p.drawText(QRectF(0, top, width(), 17), Qt::AlignLeft | Qt::AlignVCenter, name);
    const double named = p.fontMetrics().horizontalAdvance(name);
    p.setPen(c.muted);
    p.setFont(word_font(9));
    QString told = QString::fromStdString(b.words);
    if (b.ends_at_frame && !b.example)
      told += say_q(", ends after %1%2")
                  .arg(QString::fromStdString(format_count(*b.ends_at_frame)),
                       t.knows_start() ? say_q(" at ") + QString::fromStdString(format_clock(
                                                             later(t.start, b.ends_after_s), t.place.zone))
                                       : QString());
    const QRectF right(named + 12, top, width() - named - 12, 17);
    p.drawText(right, Qt::AlignRight | Qt::AlignVCenter,
               p.fontMetrics().elidedText(told, Qt::ElideRight, static_cast<int>(right.width())));
    const QRectF bar(0, top + 18, width(), 6);
    p.fillRect(bar, c.line);
    p.fillRect(QRectF(0, bar.top(), x_of(b.shots), bar.height()), b.example         ? c.muted
                                                                  : b.ends_at_frame ? c.stop
                                                                  : b.share > 0.85  ? c.warning
                                                                                    : c.ok);
    p.fillRect(QRectF(x_of(shots) - 1, bar.top() - 3, 2, bar.height() + 6), c.ink);
  }
  p.setFont(figure_font(8));
  const double foot = static_cast<double>(budgets.size()) * row;
  for (const double times : {1.0, 10.0, 100.0}) {
    const QString label = QString::fromStdString(format_count(static_cast<long long>(shots * times)));
    const double w = p.fontMetrics().horizontalAdvance(label), x = x_of(shots * times);
    p.setPen(times == 1 ? c.ink : c.muted);
    p.drawText(QPointF(std::clamp(x - w / 2, 0.0, width() - w), foot + 11),
               times == 1 ? label + say_q(" shots") : label);
  }
}

}  // namespace askcount::app
