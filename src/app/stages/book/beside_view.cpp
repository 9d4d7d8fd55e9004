// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/book/beside_view.h"

#include <QGridLayout>
#include <QLabel>

#include "app/style/style.h"
#include "app/style/text.h"
#include "book/beside.h"

namespace askcount::app {

BesideView::BesideView(QWidget* parent) : QScrollArea(parent) {
  setFrameShape(QFrame::NoFrame);
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setObjectName("side by side");
  setAccessibleName(say_q("Plan and outcome, line by line"));
  viewport()->setAutoFillBackground(false);
}

void BesideView::show_takes(const std::vector<book::Entry>& takes) {
  auto* page = new QWidget;
  auto* grid = new QGridLayout(page);
  grid->setContentsMargins(14, 4, 14, 14);
  grid->setHorizontalSpacing(22);
  grid->setVerticalSpacing(5);
  int row = 0;
  const auto put = [&](int column, const QString& words, const QFont& font, bool muted, bool wrap = true) {
    auto* label = new QLabel(tied(words), page);
    label->setFont(font);
    label->setWordWrap(wrap);
    label->setTextFormat(Qt::PlainText);
    label->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    if (muted) label->setForegroundRole(QPalette::PlaceholderText);
    grid->addWidget(label, row, column);
    return label;
  };
  for (size_t n = 0; n < takes.size(); ++n) {
    put(static_cast<int>(n) + 1, to_q(takes[n].name), word_font(13, QFont::Bold), false)
        ->setObjectName(say_q("beside %1").arg(n + 1));
    grid->setColumnStretch(static_cast<int>(n) + 1, 3);
  }
  grid->setColumnStretch(0, 1);
  ++row;
  QString group;
  for (const book::Line& line : book::lines_of(takes)) {
    if (to_q(line.group) != group) {
      group = to_q(line.group);
      grid->setRowMinimumHeight(row, 34);
      auto* title = put(0, group, word_font(9.5, QFont::DemiBold), true, false);
      title->setAlignment(Qt::AlignLeft | Qt::AlignBottom);
      ++row;
    }
    put(0, to_q(line.what), word_font(9.5), true, false);
    const bool stands_out = line.differ && takes.size() > 1;
    for (size_t n = 0; n < line.each.size(); ++n)
      put(static_cast<int>(n) + 1, line.each[n].empty() ? "·" : to_q(line.each[n]),
          word_font(10, stands_out ? QFont::Bold : QFont::Normal), line.each[n].empty());
    ++row;
  }
  grid->setRowStretch(row, 1);
  setWidget(page);
  page->setAutoFillBackground(false);
}

}  // namespace askcount::app

#include "moc_beside_view.cpp"
