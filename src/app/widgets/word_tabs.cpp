// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/word_tabs.h"

#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {
namespace {

constexpr double kPoints = 10.5;
constexpr int kBetween = 22;

}  // namespace

WordTabs::WordTabs(const QString& name, QWidget* parent) : QWidget(parent) {
  setObjectName(name);
  setAccessibleName(say_q("Pages of this stage"));
  say_keys();
  setFocusPolicy(Qt::StrongFocus);
  setCursor(Qt::PointingHandCursor);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void WordTabs::add(const QString& word, QWidget* page, Pages* pages) {
  words_ << word;
  there_.push_back(true);
  pages_ = pages;
  pages->addWidget(page);
  update();
}

void WordTabs::choose(int index) {
  chosen_ = std::clamp(index, 0, static_cast<int>(words_.size()) - 1);
  if (pages_) pages_->setCurrentIndex(chosen_);
  update();
}

void WordTabs::set_there(int index, bool there) {
  if (there_[static_cast<size_t>(index)] == there) return;
  there_[static_cast<size_t>(index)] = there;
  updateGeometry();
  update();
}

int WordTabs::next(int from, int step) const {
  int at = from + step;
  while (at >= 0 && at < words_.size() && !there_[static_cast<size_t>(at)]) at += step;
  return at < 0 || at >= words_.size() ? from : at;
}

QSize WordTabs::sizeHint() const {
  const QFontMetricsF m(word_font(kPoints, QFont::Bold));
  double wide = 0;
  for (int i = 0; i < words_.size(); ++i)
    if (there_[static_cast<size_t>(i)]) wide += m.horizontalAdvance(words_[i]) + kBetween;
  return {static_cast<int>(std::ceil(wide)) - kBetween + 2, QFontMetrics(word_font(kPoints)).height() + 9};
}

QRectF WordTabs::place(int index) const {
  const QFontMetricsF m(word_font(kPoints, QFont::Bold));
  double x = 0, all = 0;
  for (int i = 0; i < words_.size(); ++i) {
    if (!there_[static_cast<size_t>(i)]) continue;
    const double wide = m.horizontalAdvance(words_[i]) + kBetween;
    if (i < index) x += wide;
    all += wide;
  }
  const double fit = std::min(1.0, width() / std::max(1.0, all - kBetween));  // long words, large type
  if (!there_[static_cast<size_t>(index)]) return {};
  return {x * fit, 0, m.horizontalAdvance(words_[index]) * fit, static_cast<double>(height())};
}

void WordTabs::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  p.setPen(c.line);
  p.drawLine(0, height() - 1, width(), height() - 1);
  for (int i = 0; i < words_.size(); ++i) {
    const QRectF at = place(i);
    if (at.isEmpty()) continue;
    const bool here = i == chosen_;
    p.setFont(word_font(kPoints, here ? QFont::Bold : QFont::Medium));
    p.setPen(here ? c.ink : c.muted);
    draw_fitted(p, at.adjusted(0, 0, 1, -6), Qt::AlignLeft | Qt::AlignVCenter, words_[i]);
    if (here) p.fillRect(QRectF(at.left(), height() - 3, at.width(), 3), hasFocus() ? c.field : c.ink);
  }
}

void WordTabs::mousePressEvent(QMouseEvent* event) {
  for (int i = 0; i < words_.size(); ++i)
    if (!place(i).isEmpty() &&
        place(i).adjusted(-kBetween / 2.0, 0, kBetween / 2.0, 0).contains(event->position()))
      choose(i);
}

void WordTabs::say_keys() {
  keys_.add(Qt::Key_Left, say_q("To the page before"), [this] { choose(next(chosen_, -1)); });
  keys_.add(Qt::Key_Right, say_q("To the next page"), [this] { choose(next(chosen_, 1)); });
}

void WordTabs::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

}  // namespace askcount::app

#include "moc_word_tabs.cpp"
