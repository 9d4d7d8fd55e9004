// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/asked_bar.h"

#include <QHBoxLayout>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

AskedBar::AskedBar(BookKeeper& book, QWidget* parent) : QWidget(parent), book_(book) {
  setObjectName("how did it go");
  auto* line = new QHBoxLayout(this);
  line->setContentsMargins(18, 6, 18, 6);
  line->setSpacing(8);
  question_ = new QLabel(this);
  question_->setFont(word_font(10.5, QFont::DemiBold));
  line->addWidget(question_);
  const auto verdict = [&](const QString& words, book::Verdict v) {
    auto* press = new PressButton(words, false, this);
    press->setObjectName("it went " + words.toLower());
    connect(press, &QPushButton::clicked, this, [this, v] { keep(v); });
    line->addWidget(press);
  };
  auto* next = new QLabel(say_q("Next time"), this);
  next->setFont(word_font(10));
  change_ = new QLineEdit(this);
  change_->setObjectName("next time");
  change_->setAccessibleName(say_q("The one thing to do differently next time"));
  change_->setPlaceholderText(say_q("one thing to do differently, if there is one"));
  change_->setFont(word_font(10));
  line->addWidget(next);
  line->addWidget(change_, 1);
  verdict(say_q("Well"), book::Verdict::Well);
  verdict(say_q("Fairly"), book::Verdict::Fairly);
  verdict(say_q("Badly"), book::Verdict::Badly);
  auto* later = new PressButton(say_q("Not now"), false, this);
  later->setObjectName("not now");
  connect(later, &QPushButton::clicked, this, [this] { keep(words_.verdict); });
  line->addWidget(later);
  connect(&book, &BookKeeper::film_filed, this, &AskedBar::ask);
  hide();
}

void AskedBar::ask(long long id, const QString& name, const book::Words& words) {
  if (words.asked || words.verdict != book::Verdict::None || isVisible()) return;
  id_ = id;
  words_ = words;
  question_->setText(say_q("The film is ready. How did %1 go?")
                         .arg(question_->fontMetrics().elidedText(name, Qt::ElideRight, 260)));
  change_->setText(QString::fromStdString(words.change));
  show();
}

void AskedBar::keep(book::Verdict verdict) {
  words_.verdict = verdict;
  words_.change = change_->text().trimmed().toStdString();
  words_.asked = true;
  book_.say(id_, words_);
  hide();
}

void AskedBar::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), colours().card);
  p.setPen(colours().line);
  p.drawLine(0, 0, width(), 0);
}

}  // namespace askcount::app

#include "moc_asked_bar.cpp"
