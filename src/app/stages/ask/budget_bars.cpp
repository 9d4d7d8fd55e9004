#include "app/stages/ask/budget_bars.h"

#include <algorithm>
#include <QPainter>

#include "app/style/style.h"
#include "base/units.h"
#include "orders/shoot.h"

namespace askcount::app {

BudgetBars::BudgetBars(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMinimumHeight(110);
  setObjectName("budgets");
  setAccessibleName("Will it last: battery, card, timer, file numbers, shutter life");
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
}

void BudgetBars::paintEvent(QPaintEvent*) {
  if (!session_.document.sums()) return;
  QPainter p(this);
  const Colours& c = colours();
  const take::Take& t = session_.document.take();
  const auto budgets = plan::budgets_of(*session_.document.sums(), t.shot, t.kit, orders::outing_of(t));
  const double row = std::min(34.0, height() / static_cast<double>(std::max<size_t>(1, budgets.size())));
  // The take takes three quarters of a bar that it just fills: beyond it is what would be left.
  const double full = width() * 0.75;
  for (size_t i = 0; i < budgets.size(); ++i) {
    const plan::Budget& b = budgets[i];
    const double top = static_cast<double>(i) * row;
    QString name = QString::fromStdString(b.name);
    name[0] = name[0].toUpper();
    p.setFont(word_font(9, QFont::Medium));
    p.setPen(c.ink);
    p.drawText(QRectF(0, top, width(), 17), Qt::AlignLeft | Qt::AlignVCenter, name);
    p.setPen(c.muted);
    p.setFont(word_font(9));
    QString told = QString::fromStdString(b.words);
    if (b.ends_at_frame)
      told += QString(", ends after %1 at %2")
                  .arg(QString::fromStdString(format_count(*b.ends_at_frame)),
                       QString::fromStdString(format_clock(later(t.start, b.ends_after_s), t.place.zone)));
    p.drawText(QRectF(0, top, width(), 17), Qt::AlignRight | Qt::AlignVCenter, told);
    const QRectF bar(0, top + 18, width(), 6);
    p.fillRect(bar, c.line);
    // Filled as far as it is good for, the take's end being the mark.
    const double reach = b.share <= 0 ? bar.width() : std::min<double>(bar.width(), full / b.share);
    p.fillRect(QRectF(0, bar.top(), reach, bar.height()), b.ends_at_frame  ? c.stop
                                                          : b.share > 0.85 ? c.warning
                                                                           : c.ok);
    p.fillRect(QRectF(full - 1, bar.top() - 3, 2, bar.height() + 6), c.ink);
  }
}

}  // namespace askcount::app
