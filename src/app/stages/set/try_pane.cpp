// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/set/try_pane.h"

#include <memory>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QMimeData>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "take/fix.h"

namespace askcount::app {

TryPane::TryPane(Session& session, QWidget* parent) : QWidget(parent), session_(session), job_(this) {
  setObjectName("try frames");
  setAcceptDrops(true);
  auto* down = new QVBoxLayout(this);
  down->setContentsMargins(0, 10, 0, 0);
  down->setSpacing(10);
  words_ = new QLabel(this);
  words_->setObjectName("try words");
  words_->setWordWrap(true);
  words_->setFont(word_font(10.5));
  down->addWidget(words_);
  auto* across = new QHBoxLayout;
  choose_ = new PressButton(say_q("Choose the card…"), true, this);
  choose_->setObjectName("try card");
  connect(choose_, &QPushButton::clicked, this, [this] {
    if (job_.running()) return job_.cancel();
    const QString folder = QFileDialog::getExistingDirectory(this, say_q("The card with the test frames"));
    if (!folder.isEmpty()) try_card(folder.toStdString());
  });
  across->addWidget(choose_);
  across->addStretch();
  down->addLayout(across);
  verdict_ = new QLabel(this);
  verdict_->setObjectName("try verdict");
  verdict_->setFont(word_font(26, QFont::Bold));
  down->addWidget(verdict_);
  grid_ = new QGridLayout;
  grid_->setHorizontalSpacing(28);
  grid_->setVerticalSpacing(7);
  grid_->setColumnStretch(3, 1);
  down->addLayout(grid_);
  down->addStretch(1);
  connect(&job_, &Job::started, this, [this] { refresh(); });
  connect(&job_, &Job::progressed, this, [this] { refresh(); });
  connect(&job_, &Job::ended, this, [this](const QString& trouble, bool cancelled) {
    said_ = cancelled ? QString() : trouble;
    refresh();
  });
  connect(&session.document, &Document::replaced, this, [this] {
    job_.review();
    tried_.reset();
    said_.clear();
  });
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void TryPane::try_card(const std::filesystem::path& card) {
  const auto take = std::make_shared<take::Take>(session_.document.take());
  const auto tried = std::make_shared<forecast::Tried>();
  const std::uint64_t of = session_.document.generation();
  said_.clear();
  job_.start({say_q("Looking at the test frames"),
              [take, tried, card](const Work& work) { *tried = forecast::try_frames(*take, {card}, work); },
              [this, tried, of] {
                tried_ = std::move(*tried);
                take_ = of;
                learn();
                refresh();
                emit changed();
              },
              [this, of] { return session_.document.generation() == of; }, say_q(" frames")});
}

void TryPane::learn() {
  if (tried_->learnt.empty()) return;
  session_.document.edit([this](take::Take& t) {
    for (const Fix& f : tried_->learnt) t = take::with_fix(t, f);
  });
}

void TryPane::dragEnterEvent(QDragEnterEvent* event) {
  const QList<QUrl> urls = event->mimeData()->urls();
  if (!urls.isEmpty() && urls.front().isLocalFile()) event->acceptProposedAction();
}

void TryPane::dropEvent(QDropEvent* event) {
  const QList<QUrl> urls = event->mimeData()->urls();
  if (urls.isEmpty() || !urls.front().isLocalFile()) return;
  event->acceptProposedAction();
  try_card(urls.front().toLocalFile().toStdString());
}

void TryPane::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  if (tried_) emit changed();
}

void TryPane::hideEvent(QHideEvent* event) {
  QWidget::hideEvent(event);
  if (tried_) emit changed();
}

void TryPane::refresh() {
  const bool running = job_.running();
  choose_->setText(running ? say_q("Stop") : tried_ ? say_q("Try another ten…") : say_q("Choose the card…"));
  words_->setText(
      !said_.isEmpty() ? said_
      : running
          ? job_.doing() + " " + QString::number(job_.done_count()) + "/" + QString::number(job_.total())
      : tried_ && !tried_->learnt.empty()
          ? say_q("What they show of your kit is in it now; Ctrl+Z takes it back.")
          : say_q("Shoot ten frames with this program, put the card in, and choose or drop it here. The "
                  "newest frames on it are held against the plan."));
  QPalette ink = verdict_->palette();
  const bool shown = tried_ && !running;
  const bool good = shown && tried_->start();
  ink.setColor(QPalette::WindowText, good ? colours().ok : colours().stop);
  verdict_->setPalette(ink);
  verdict_->setVisible(shown);
  verdict_->setText(good ? say_q("Start") : say_q("Change this first"));
  while (QLayoutItem* item = grid_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  if (!shown) return;
  int row = 0;
  const auto cell = [&](const std::string& words, int column, const QFont& font, bool muted) {
    auto* label = new QLabel(to_q(words), this);
    label->setFont(font);
    if (muted) label->setForegroundRole(QPalette::PlaceholderText);
    grid_->addWidget(label, row, column);
  };
  for (const forecast::TriedLine& l : forecast::lines_of(*tried_)) {
    cell(l.what, 0, word_font(10.5), true);
    cell(l.is, 1, figure_font(13, true), false);
    if (!l.planned.empty()) cell(say("planned {}", l.planned), 2, word_font(10.5), true);
    ++row;
  }
}

}  // namespace askcount::app

#include "moc_try_pane.cpp"
