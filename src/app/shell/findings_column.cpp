// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/findings_column.h"

#include <algorithm>
#include <QAbstractButton>
#include <QGridLayout>
#include <QPainter>
#include <QScrollBar>

#include "app/shell/finding_mark.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/press_button.h"

namespace askcount::app {
namespace {

/// A finding's mark.
class Mark : public QWidget {
 public:
  Mark(Severity severity, QWidget* parent) : QWidget(parent), severity_(severity) { setFixedSize(14, 18); }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    draw_mark(p, severity_, {0, 0});
  }

 private:
  Severity severity_;
};

/// Wider where type is larger, though less so: the stage beside it needs its room.
int column_width() {
  return static_cast<int>(FindingsColumn::kWidth * (1 + 0.6 * (std::min(type_scale(), 2.0) - 1)));
}

}  // namespace

/// Words with a mark that are pressed, by the mouse or by Space and Return; on two lines where they are long.
class PressLine : public QAbstractButton {
 public:
  PressLine(Severity severity, QWidget* parent) : QAbstractButton(parent), severity_(severity) {
    setFont(word_font(9.5, QFont::DemiBold));
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::TabFocus);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Minimum);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
  }
  void set_words(const QString& words) {
    words_ = words;
    setAccessibleName(words);
    updateGeometry();
    update();
  }
  QSize sizeHint() const override { return {200, heightForWidth(column_width() - 40)}; }
  int heightForWidth(int width) const override {
    return std::max(26, 8 + fontMetrics()
                                .boundingRect(QRect(0, 0, width - kWordsLeft - kWordsRight, 1000),
                                              Qt::TextWordWrap, words_)
                                .height());
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    draw_mark(p, severity_, {9, 4});
    p.setPen(hasFocus() || underMouse() ? colours().ink : colours().muted);
    p.setFont(font());
    p.drawText(rect().adjusted(kWordsLeft, 4, -kWordsRight, -4),
               Qt::AlignTop | Qt::AlignLeft | Qt::TextWordWrap, words_);
  }

 private:
  static constexpr int kWordsLeft = 30, kWordsRight = 4;  // pixels beside the words

  Severity severity_;
  QString words_;
};

namespace {

/// The card behind a finding.
class Card : public QWidget {
 public:
  using QWidget::QWidget;

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(colours().card);
    p.drawRoundedRect(rect(), 3, 3);
  }
};

QLabel* wrapped(const std::string& text, const QFont& font, QWidget* parent) {
  auto* label = new QLabel(tied(to_q(text)), parent);
  label->setFont(font);
  label->setWordWrap(true);
  label->setTextInteractionFlags(Qt::NoTextInteraction);
  return label;
}

/// Lets go of a widget once its own signals are through.
void put_away(QWidget* widget) {
  widget->hide();
  widget->deleteLater();
}

}  // namespace

FindingsColumn::FindingsColumn(QWidget* parent) : QWidget(parent) {
  setFixedWidth(column_width());
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(16, 16, 8, 8);
  rows->setSpacing(10);
  title_ = new QLabel(this);
  title_->setFont(word_font(9.5, QFont::DemiBold));
  title_->setForegroundRole(QPalette::PlaceholderText);
  rows->addWidget(title_);
  scroll_ = new QScrollArea(this);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll_->setFocusPolicy(Qt::NoFocus);
  scroll_->viewport()->setAutoFillBackground(false);
  rows->addWidget(scroll_, 1);
  list_ = new QWidget;
  rows_ = new QVBoxLayout(list_);
  rows_->setContentsMargins(0, 0, 8, 0);
  rows_->setSpacing(8);
  rows_->addStretch();
  fold_ = new PressLine(Severity::Ok, list_);
  fold_->setObjectName("what is fine");
  fold_->hide();
  connect(fold_, &QAbstractButton::clicked, this, [this] {
    open_ = !open_;
    fold();
  });
  scroll_->setWidget(list_);
  list_->setAutoFillBackground(false);  // setWidget() turns it on
}

void FindingsColumn::to_top() {
  open_ = false;
  fold();
  scroll_->verticalScrollBar()->setValue(0);
}

void FindingsColumn::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), colours().column);
  p.setPen(colours().line);
  p.drawLine(0, 0, 0, height());
}

QString FindingsColumn::heading_of(size_t index) const {
  const auto it = headings_.find(index);
  return it == headings_.end() ? QString() : it->second;
}

void FindingsColumn::show_findings(const Said& said) {
  const Findings& findings = said.findings;
  const QString words = title_->fontMetrics().elidedText(said.title, Qt::ElideRight, column_width() - 32);
  if (words != title_->text()) title_->setText(words);
  show_facts(said.facts);
  const auto had = headings_;
  headings_ = said.headings;
  folds_ = said.folds_fine;
  rows_->removeWidget(fold_);
  // Only what changed is built anew: a card stays while its finding stays.
  for (size_t i = 0; i < findings.size(); ++i) {
    const auto before = had.find(i);
    const bool same_heading = heading_of(i) == (before == had.end() ? QString() : before->second);
    if (i < shown_.size() && shown_[i] == findings[i] && same_heading) continue;
    QWidget* card = make_card(findings[i], heading_of(i));
    if (i < cards_.size()) {
      delete rows_->replaceWidget(cards_[i], card);
      put_away(cards_[i]);
      cards_[i] = card;
    } else {
      rows_->insertWidget(rows_->count() - 1, card);
      cards_.push_back(card);
    }
  }
  while (cards_.size() > findings.size()) {
    rows_->removeWidget(cards_.back());
    put_away(cards_.back());
    cards_.pop_back();
  }
  shown_ = findings;
  fold();
}

void FindingsColumn::fold() {
  constexpr long kFew = 2;  // no more than that are shown anyway
  const auto fine = [](const Finding& f) { return f.severity == Severity::Ok; };
  const long count = std::count_if(shown_.begin(), shown_.end(), fine);
  const auto first = std::find_if(shown_.begin(), shown_.end(), fine) - shown_.begin();
  rows_->removeWidget(fold_);
  const bool folds = folds_ && count > kFew;
  fold_->setVisible(folds);
  if (folds) {
    rows_->insertWidget(static_cast<int>(first) + (table_ ? 1 : 0), fold_);
    fold_->set_words(say_q("%1 things are fine%2").arg(count).arg(open_ ? say_q(": hide them") : ""));
  }
  for (size_t i = 0; i < shown_.size(); ++i) cards_[i]->setVisible(!fine(shown_[i]) || open_ || !folds);
}

void FindingsColumn::show_facts(const Stage::Facts& facts) {
  if (facts == facts_) return;
  const bool same_rows = facts.size() == facts_.size();
  facts_ = facts;
  if (!same_rows) {
    if (table_) {
      rows_->removeWidget(table_);
      put_away(table_);
    }
    table_ = nullptr;
    fact_labels_.clear();
    if (facts.empty()) return;
    table_ = new QWidget(list_);
    auto* grid = new QGridLayout(table_);
    grid->setContentsMargins(3, 0, 4, 6);
    grid->setVerticalSpacing(6);
    grid->setColumnStretch(0, 1);
    for (int i = 0; i < static_cast<int>(facts.size()); ++i) {
      auto* name = new QLabel(table_);
      name->setFont(word_font(9));
      auto* figure = new QLabel(table_);
      figure->setFont(figure_font(9.5));
      figure->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
      grid->addWidget(name, i, 0);
      grid->addWidget(figure, i, 1);
      fact_labels_.emplace_back(name, figure);
    }
    rows_->insertWidget(0, table_);
  }
  for (size_t i = 0; i < facts.size(); ++i) {
    const auto& [name, figure] = fact_labels_[i];
    name->setText(facts[i].words);
    figure->setText(facts[i].figure);
    name->setToolTip(facts[i].why);
    figure->setToolTip(facts[i].why);
  }
}

QWidget* FindingsColumn::make_card(const Finding& f, const QString& heading) {
  if (!heading.isEmpty()) {
    auto* both = new QWidget(list_);
    auto* below = new QVBoxLayout(both);
    below->setContentsMargins(0, 8, 0, 0);
    below->setSpacing(8);
    auto* title = new QLabel(heading, both);
    title->setFont(word_font(9.5, QFont::DemiBold));
    title->setForegroundRole(QPalette::PlaceholderText);
    below->addWidget(title);
    below->addWidget(make_card(f, {}));
    return both;
  }
  if (f.severity == Severity::Caution && read_.count(f.title) > 0) return make_folded(f);
  auto* card = new Card(list_);
  card->setObjectName(QString::fromStdString(f.code));
  card->setAccessibleName(QString::fromStdString(severity_word(f.severity) + ": " + f.title));
  auto* across = new QHBoxLayout(card);
  across->setContentsMargins(9, 7, 9, 9);
  across->setSpacing(7);
  across->addWidget(new Mark(f.severity, card), 0, Qt::AlignTop);
  auto* down = new QVBoxLayout;
  down->setSpacing(3);
  down->addWidget(wrapped(f.title, word_font(9.5, QFont::Bold), card));
  down->addWidget(wrapped(f.text, word_font(9), card));
  if (f.fix) {
    auto* press = new PressButton(QString::fromStdString(askcount::words(*f.fix)), false, card);
    connect(press, &QPushButton::clicked, this, [this, m = *f.fix] { emit fix(m); });
    down->addWidget(press, 0, Qt::AlignLeft);
  }
  across->addLayout(down, 1);
  return card;
}

QWidget* FindingsColumn::make_folded(const Finding& f) {
  auto* card = new Card(list_);
  card->setObjectName(to_q(f.code));
  auto* down = new QVBoxLayout(card);
  down->setContentsMargins(0, 0, 0, 0);
  down->setSpacing(0);
  auto* line = new PressLine(f.severity, card);
  line->set_words(to_q(f.title));
  line->setAccessibleName(to_q(severity_word(f.severity) + ": " + f.title));
  line->setToolTip(to_q(f.text));
  down->addWidget(line);
  QLabel* text = wrapped(f.text, word_font(9), card);
  text->setContentsMargins(30, 0, 9, 9);
  text->hide();
  down->addWidget(text);
  connect(line, &QAbstractButton::clicked, text, [text] { text->setVisible(text->isHidden()); });
  return card;
}

void FindingsColumn::mark_read() {
  for (Finding& f : shown_)
    if (f.severity == Severity::Caution && read_.insert(f.title).second) f = {};  // its card is made anew
}

bool FindingsColumn::wants_room() const {
  if (!folds_ && !shown_.empty()) return true;  // what is fine is worth reading there
  return std::any_of(shown_.begin(), shown_.end(), [this](const Finding& f) {
    return f.severity == Severity::Stop || f.severity == Severity::Warning ||
           (f.severity == Severity::Caution && read_.count(f.title) == 0);
  });
}

bool FindingsColumn::has_stop() const {
  return std::any_of(shown_.begin(), shown_.end(),
                     [](const Finding& f) { return f.severity == Severity::Stop; });
}

}  // namespace askcount::app

#include "moc_findings_column.cpp"
