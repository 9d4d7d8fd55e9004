// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/add_words.h"

#include <algorithm>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {
namespace {

constexpr int kChipSide = 10, kChipGap = 6;  // pixels beside a chip's word, and between chips

QFont heading_font() {
  return word_font(9.5, QFont::DemiBold);
}

QString heading() {
  return say_q("Add");
}

}  // namespace

WordChip::WordChip(const QString& word, QWidget* parent) : QAbstractButton(parent) {
  setText(word);
  setFont(word_font(9.5));
  setCursor(Qt::PointingHandCursor);
  setFocusPolicy(Qt::TabFocus);
  setObjectName("add " + word);
  setAccessibleName(say_q("Add: {}", word.toStdString()));
}

QSize WordChip::sizeHint() const {
  return {fontMetrics().horizontalAdvance(text()) + 2 * kChipSide, fontMetrics().height() + 6};
}

void WordChip::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  const bool lit = hasFocus() || underMouse();
  p.setPen(QPen(lit ? c.field : c.muted, hasFocus() ? 2 : 1.2, lit ? Qt::SolidLine : Qt::DashLine));
  p.setBrush(isDown() ? c.card : Qt::transparent);
  const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
  p.drawRoundedRect(box, box.height() / 2, box.height() / 2);
  p.setPen(lit ? c.ink : c.muted);
  p.setFont(font());
  p.drawText(rect(), Qt::AlignCenter, text());
}

AddWords::AddWords(Sentence& sentence, QWidget* parent) : QWidget(parent), sentence_(sentence) {
  QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Minimum);
  policy.setHeightForWidth(true);
  setSizePolicy(policy);
  const QStringList words = sentence.phrase_words();
  for (int n = 0; n < words.size(); ++n) {
    auto* chip = new WordChip(words[n], this);
    connect(chip, &QAbstractButton::clicked, this, [this, n] { sentence_.add_phrase(n); });
    chips_.push_back(chip);
  }
  connect(&sentence, &Sentence::phrases_changed, this, &AddWords::refresh);
  refresh();
}

void AddWords::refresh() {
  bool any = false;
  for (size_t n = 0; n < chips_.size(); ++n) {
    const bool offered = !sentence_.has_phrase(static_cast<int>(n));
    chips_[n]->setVisible(offered);
    any = any || offered;
  }
  setVisible(any);
  lay_out(width(), true);
  updateGeometry();
  update();
}

int AddWords::lay_out(int width, bool move) const {
  const int top = QFontMetrics(heading_font()).height() + 5;
  int x = 0, y = top, high = 0;
  for (WordChip* chip : chips_) {
    if (chip->isHidden()) continue;
    const QSize size = chip->sizeHint();
    if (x > 0 && x + size.width() > width) {
      x = 0;
      y += size.height() + kChipGap;
    }
    if (move) chip->setGeometry(QRect({x, y}, size));
    x += size.width() + kChipGap;
    high = size.height();
  }
  return y + high + 2;
}

QSize AddWords::sizeHint() const {
  return {300, lay_out(std::max(120, width()), false)};
}

void AddWords::resizeEvent(QResizeEvent*) {
  lay_out(width(), true);
  updateGeometry();
}

void AddWords::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setFont(heading_font());
  p.setPen(colours().muted);
  p.drawText(QPointF(0, p.fontMetrics().ascent()), heading());
}

}  // namespace askcount::app

#include "moc_add_words.cpp"
