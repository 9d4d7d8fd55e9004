// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/empty_page.h"

#include <QEvent>
#include <QLabel>
#include <QLineEdit>
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
  const bool another = !note_ || !(*note_ == *note);
  if (another) {
    note_ = note;
    setFocusProxy(nullptr);
    delete content_;
    content_ = new QWidget(this);
    content_->setMaximumWidth(kWide);
    auto* down = new QVBoxLayout(content_);
    down->setSpacing(6);
    down->addWidget(words(note->title, word_font(20, QFont::Bold), content_));
    if (!note->text.isEmpty()) down->addWidget(words(note->text, word_font(11.5), content_));
    if (!note->asks.isEmpty()) {
      down->addSpacing(14);
      auto* line = new QLineEdit(content_);
      line->setObjectName("what moves");
      line->setAccessibleName(note->title);
      line->setPlaceholderText(note->asks);
      line->setFont(word_font(15));
      line->setMinimumHeight(QFontMetrics(line->font()).height() + 18);
      connect(line, &QLineEdit::returnPressed, this, [this, line] {
        if (const QString words = line->text().trimmed(); !words.isEmpty()) emit said(words);
      });
      down->addWidget(line);
      setFocusProxy(line);
    }
    bool first = note->asks.isEmpty();
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
  const bool came = isHidden() || another;
  setGeometry(parentWidget()->rect());
  show();
  raise();
  if (came && !note->asks.isEmpty()) setFocus();  // it is what the page is for
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
