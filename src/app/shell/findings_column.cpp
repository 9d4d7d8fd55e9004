#include "app/shell/findings_column.h"

#include <QGridLayout>
#include <QPainter>
#include <QPolygonF>
#include <QScrollBar>

#include "app/style/style.h"
#include "app/widgets/press_button.h"

namespace askcount::app {
namespace {

/// A finding's shape: a tick, a triangle or a cross, so that colour alone never tells.
class Mark : public QWidget {
 public:
  Mark(Severity severity, QWidget* parent) : QWidget(parent), severity_(severity) { setFixedSize(14, 18); }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = colours();
    switch (severity_) {
      case Severity::Ok:
        p.setPen(QPen(c.ok, 2.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.drawPolyline(QPolygonF({{1.5, 10}, {5, 13.5}, {11, 6}}));
        break;
      case Severity::Warning:
        p.setPen(Qt::NoPen);
        p.setBrush(c.warning);
        p.drawPolygon(QPolygonF({{6.5, 4}, {12.5, 15}, {0.5, 15}}));
        break;
      case Severity::Stop:
        p.setPen(QPen(c.stop, 2.8, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(QPointF(2, 5), QPointF(11, 14));
        p.drawLine(QPointF(11, 5), QPointF(2, 14));
        break;
    }
  }

 private:
  Severity severity_;
};

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
  auto* label = new QLabel(QString::fromStdString(text), parent);
  label->setFont(font);
  label->setWordWrap(true);
  label->setTextInteractionFlags(Qt::NoTextInteraction);
  return label;
}

}  // namespace

FindingsColumn::FindingsColumn(QWidget* parent) : QWidget(parent) {
  setFixedWidth(kWidth);
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
  scroll_->setWidget(list_);
  list_->setAutoFillBackground(false);  // setWidget() turns it on
}

void FindingsColumn::to_top() {
  scroll_->verticalScrollBar()->setValue(0);
}

void FindingsColumn::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), colours().column);
  p.setPen(colours().line);
  p.drawLine(0, 0, 0, height());
}

void FindingsColumn::show_findings(const QString& title, const Findings& findings,
                                   const Stage::Facts& facts) {
  title_->setText(title_->fontMetrics().elidedText(title, Qt::ElideRight, kWidth - 32));
  if (built_ && findings == shown_ && facts == facts_) return;
  shown_ = findings;
  facts_ = facts;
  built_ = true;
  while (rows_->count() > 1) {
    const QLayoutItem* item = rows_->takeAt(0);
    item->widget()->hide();
    item->widget()->deleteLater();
    delete item;
  }
  if (!facts.empty()) {
    auto* table = new QWidget(list_);
    auto* grid = new QGridLayout(table);
    grid->setContentsMargins(3, 0, 4, 6);
    grid->setVerticalSpacing(6);
    for (int i = 0; i < static_cast<int>(facts.size()); ++i) {
      const Stage::Fact& fact = facts[static_cast<size_t>(i)];
      auto* name = new QLabel(fact.words, table);
      name->setFont(word_font(9));
      auto* figure = new QLabel(fact.figure, table);
      figure->setFont(figure_font(9.5));
      figure->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
      if (!fact.why.isEmpty()) name->setToolTip(fact.why), figure->setToolTip(fact.why);
      grid->addWidget(name, i, 0);
      grid->addWidget(figure, i, 1);
    }
    grid->setColumnStretch(0, 1);
    rows_->insertWidget(rows_->count() - 1, table);
  }
  for (const Finding& f : findings) {
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
    if (f.mend && !f.fix.empty()) {
      auto* press = new PressButton(QString::fromStdString(f.fix), false, card);
      connect(press, &QPushButton::clicked, this, [this, m = *f.mend] { emit mend(m); });
      down->addWidget(press, 0, Qt::AlignLeft);
    }
    across->addLayout(down, 1);
    rows_->insertWidget(rows_->count() - 1, card);
  }
}

}  // namespace askcount::app
