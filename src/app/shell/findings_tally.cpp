// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/findings_tally.h"

#include <algorithm>
#include <QPainter>

#include "app/shell/finding_mark.h"
#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {
namespace {

constexpr int kMark = 18, kBetween = 22;  // pixels of a mark, and between the two parts

/// Which of two is the worse; a caution is no fault, but more than what is fine.
int weight(Severity s) {
  return s == Severity::Stop ? 3 : s == Severity::Warning ? 2 : s == Severity::Caution ? 1 : 0;
}

}  // namespace

FindingsTally::FindingsTally(QWidget* parent) : QAbstractButton(parent) {
  setObjectName("findings tally");
  setFont(word_font(9, QFont::DemiBold));
  setCursor(Qt::PointingHandCursor);
  setFocusPolicy(Qt::TabFocus);
  setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Fixed);
  setToolTip(say_q("All that was noticed, and what fixes it (Ctrl+F)"));
  hide();
}

void FindingsTally::show_findings(const Findings& findings) {
  fine_ = std::count_if(findings.begin(), findings.end(),
                        [](const Finding& f) { return f.severity == Severity::Ok; });
  const auto worst = std::max_element(
      findings.begin(), findings.end(),
      [](const Finding& a, const Finding& b) { return weight(a.severity) < weight(b.severity); });
  has_worst_ = worst != findings.end() && worst->severity != Severity::Ok;
  if (has_worst_) worst_ = *worst;
  QString words = fine_ > 0 ? counted_q(fine_, "{} thing is fine", "{} things are fine") : QString();
  setText(words);
  if (has_worst_) words += (words.isEmpty() ? "" : "; ") + to_q(worst_.title);
  setAccessibleName(words);
  setVisible(!findings.empty());
  updateGeometry();
  update();
}

int FindingsTally::count_width() const {
  return text().isEmpty() ? 0 : kMark + fontMetrics().horizontalAdvance(text());
}

QSize FindingsTally::sizeHint() const {
  int wide = count_width();
  if (has_worst_)
    wide += (wide > 0 ? kBetween : 0) + kMark + fontMetrics().horizontalAdvance(to_q(worst_.title)) + 2;
  return {wide, 20};
}

void FindingsTally::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  const double top = (height() - 18) / 2.0;
  p.setFont(font());
  const bool lit = hasFocus() || underMouse();
  double x = 0;
  if (!text().isEmpty()) {
    draw_mark(p, Severity::Ok, {0, top});
    p.setPen(lit ? c.ink : c.ok);
    p.drawText(QRectF(kMark, 0, width() - kMark, height()), Qt::AlignVCenter | Qt::AlignLeft, text());
    x = count_width() + kBetween;
  }
  if (!has_worst_) return;
  draw_mark(p, worst_.severity, {x, top});
  p.setPen(lit                                    ? c.ink
           : worst_.severity == Severity::Stop    ? c.stop
           : worst_.severity == Severity::Warning ? c.warning
                                                  : c.muted);
  const double room = width() - x - kMark;
  p.drawText(QRectF(x + kMark, 0, room, height()), Qt::AlignVCenter | Qt::AlignLeft,
             p.fontMetrics().elidedText(to_q(worst_.title), Qt::ElideRight, static_cast<int>(room)));
}

}  // namespace askcount::app

#include "moc_findings_tally.cpp"
