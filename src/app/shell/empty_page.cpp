// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/empty_page.h"

#include <QEvent>
#include <QLabel>
#include <QPainter>

#include "app/style/style.h"
#include "app/widgets/press_button.h"

namespace askcount::app {
namespace {

constexpr int kWide = 560;

QLabel* words(const QString& text, const QFont& font, QWidget* parent) {
  auto* label = new QLabel(text, parent);
  label->setFont(font);
  label->setWordWrap(true);
  return label;
}

}  // namespace

EmptyPage::EmptyPage(QWidget* over) : QWidget(over) {
  setObjectName("empty page");
  rows_ = new QVBoxLayout(this);
  rows_->setContentsMargins(26, 60, 26, 26);
  over->installEventFilter(this);
  hide();
}

void EmptyPage::set_note(const std::optional<EmptyNote>& note) {
  if (!note) {
    hide();
    note_.reset();
    return;
  }
  if (!note_ || !(*note_ == *note)) {
    note_ = note;
    delete content_;
    content_ = new QWidget(this);
    content_->setMaximumWidth(kWide);
    auto* down = new QVBoxLayout(content_);
    down->setSpacing(6);
    down->addWidget(words(note->title, word_font(20, QFont::Bold), content_));
    if (!note->text.isEmpty()) down->addWidget(words(note->text, word_font(11.5), content_));
    bool first = true;
    for (const EmptyNote::Press& press : note->presses) {
      down->addSpacing(first ? 14 : 10);
      auto* button = new PressButton(press.label, first, content_);
      connect(button, &QPushButton::clicked, this, [this, way = press.way] { emit pressed(way); });
      down->addWidget(button, 0, Qt::AlignLeft);
      down->addWidget(words(press.words, word_font(10), content_));
      first = false;
    }
    down->addStretch();
    rows_->addWidget(content_);
  }
  setGeometry(parentWidget()->rect());
  show();
  raise();
}

bool EmptyPage::eventFilter(QObject*, QEvent* event) {
  if (event->type() == QEvent::Resize && note_) setGeometry(parentWidget()->rect());
  return false;
}

void EmptyPage::paintEvent(QPaintEvent*) {
  QPainter(this).fillRect(rect(), colours().paper);
}

}  // namespace askcount::app

#include "moc_empty_page.cpp"
