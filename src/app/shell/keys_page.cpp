// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/keys_page.h"

#include <QDialogButtonBox>
#include <QGridLayout>
#include <QLabel>
#include <QScrollArea>

#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/style/text.h"

namespace askcount::app {

KeysPage::KeysPage(QWidget* parent) : QDialog(parent) {
  setWindowTitle(say_q("All keys"));
  setObjectName("keys");
  auto* all = new QVBoxLayout(this);
  auto* area = new QScrollArea(this);
  area->setFrameShape(QFrame::NoFrame);
  area->setWidgetResizable(true);
  auto* page = new QWidget(area);
  rows_ = new QVBoxLayout(page);
  rows_->setSpacing(6);
  rows_->addStretch(1);
  area->setWidget(page);
  all->addWidget(area);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  all->addWidget(buttons);
  resize(560, 640);
}

std::vector<KeysPage::Line> KeysPage::lines_of(const Keys& keys) {
  std::vector<Line> lines;
  for (const Keys::Deed& deed : keys.deeds())
    if (!deed.words.isEmpty()) lines.push_back({deed.name(), deed.words});
  return lines;
}

void KeysPage::add_why(const QString& what, const QString& why) {
  if (why.trimmed().isEmpty()) return;
  rows_->insertWidget(rows_->count() - 1, make_heading(what, this));
  auto* words = new QLabel(why, this);
  words->setFont(word_font(10));
  words->setWordWrap(true);
  words->setObjectName("why");
  rows_->insertWidget(rows_->count() - 1, words);
}

void KeysPage::add(const QString& heading, const std::vector<Line>& lines) {
  if (lines.empty()) return;
  if (rows_->count() > 1) rows_->insertSpacing(rows_->count() - 1, 10);
  rows_->insertWidget(rows_->count() - 1, make_heading(heading, this));
  auto* grid = new QGridLayout;
  grid->setHorizontalSpacing(18);
  grid->setColumnMinimumWidth(0, QFontMetrics(figure_font(9.5)).horizontalAdvance("Ctrl+Shift+Escape+Z"));
  grid->setColumnStretch(1, 1);
  for (const Line& line : lines) {
    const int row = grid->rowCount();
    auto* keys = new QLabel(line.keys, this);
    keys->setFont(figure_font(9.5));
    auto* words = new QLabel(line.words, this);
    words->setFont(word_font(10));
    words->setWordWrap(true);
    grid->addWidget(keys, row, 0, Qt::AlignTop);
    grid->addWidget(words, row, 1);
  }
  rows_->insertLayout(rows_->count() - 1, grid);
}

}  // namespace askcount::app

#include "moc_keys_page.cpp"
