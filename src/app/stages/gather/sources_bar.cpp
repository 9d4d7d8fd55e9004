// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/gather/sources_bar.h"

#include <QBoxLayout>
#include <QFileDialog>
#include <QInputDialog>
#include <QMenu>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/gather.h"
#include "ingest/copy.h"
#include "media/film_frames.h"
#include "take/fix.h"

namespace askcount::app {

SourcesBar::SourcesBar(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  // One below the other in large type.
  auto* line = new QBoxLayout(type_scale() > 1.2 ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight, this);
  line->setContentsMargins(0, 0, 0, 0);
  sources_ = new PressButton(say_q("Cards and films…"), false, this);
  clock_ = new PressButton(say_q("Camera's clock…"), false, this);
  copy_ = new PressButton(say_q("Copy, checked twice…"), false, this);
  sources_->setObjectName("sources");
  clock_->setObjectName("clock");
  copy_->setObjectName("copy");
  for (PressButton* b : {sources_, clock_, copy_}) line->addWidget(b);
  connect(sources_, &QPushButton::clicked, this, &SourcesBar::show_sources);
  connect(clock_, &QPushButton::clicked, this, &SourcesBar::ask_clock);
  connect(copy_, &QPushButton::clicked, this, &SourcesBar::show_copies);
}

void SourcesBar::refresh(const media::Frame* seen) {
  const bool busy = session_.job.running(), card = !session_.document.card().empty();
  seen_at_.reset();
  if (seen != nullptr) {
    seen_at_ = seen->info().captured;
    seen_name_ = QString::fromStdString(media::name_of(seen->file()));
  }
  sources_->setEnabled(!busy);
  clock_->setEnabled(!busy && seen_at_.has_value());
  copy_->setEnabled(card && !busy);
}

void SourcesBar::show_sources() {
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  const bool card = !session_.document.card().empty();
  menu.addAction(say_q("A card or folder…"), this, [this] { choose_card(As::Only); });
  menu.addAction(say_q("Another card or folder…"), this, [this] { choose_card(As::Another); })
      ->setEnabled(card);
  menu.addAction(say_q("A video…"), this, [this] { choose_film(); });
  menu.addSeparator();
  menu.addAction(say_q("Read again"), this,
                 [this] {
                   emit read_anew();
                   session_.frames.gather();
                 })
      ->setEnabled(card);
  menu.exec(sources_->mapToGlobal(QPoint(0, sources_->height())));
}

void SourcesBar::choose_card(As as) {
  const QString folder = QFileDialog::getExistingDirectory(this, say_q("The card or folder with the frames"));
  if (folder.isEmpty()) return;
  session_.document.edit([&](take::Take& t) {
    if (as == As::Another && !t.card.empty())
      t.gather.more_cards.push_back(folder.toStdString());
    else
      t = take::with_fix(t, fix::UseSource{folder.toStdString()});
  });
  emit read_anew();
  session_.frames.gather();
}

void SourcesBar::choose_film() {
  const QString film = QFileDialog::getOpenFileName(
      this, say_q("A video"), {},
      say_q("Films (*.mp4 *.mov *.m4v *.mkv *.avi *.mts *.m2ts *.mpg *.webm *.mxf)"));
  if (film.isEmpty()) return;
  session_.document.edit([&](take::Take& t) { t = take::with_fix(t, fix::UseSource{film.toStdString()}); });
  emit read_anew();
  session_.frames.gather();
}

void SourcesBar::ask_film_step() {
  bool given = false;
  const int now = static_cast<int>(media::film_step(*session_.frames.list()));
  const int every =
      QInputDialog::getInt(this, say_q("Pictures of the film"), say_q("One frame from how many pictures?"),
                           now, 1, 10000000, 1, &given);
  if (!given || every == now) return;
  session_.document.edit([&](take::Take& t) { t = take::with_fix(t, fix::TakeEvery{every}); });
}

void SourcesBar::ask_clock() {
  if (!seen_at_) return;
  const QString shown =
      QString::fromStdString(format_iso(Instant(seen_at_->time_since_epoch()), "UTC").substr(0, 19))
          .replace('T', ' ');
  bool given = false;
  const QString right = QInputDialog::getText(
      this, say_q("The camera's clock"),
      say_q("%1 says %2.\nWhen was it really taken, by a correct clock at the place?").arg(seen_name_, shown),
      QLineEdit::Normal, shown, &given);
  if (!given || right.trimmed() == shown) return;
  try {
    const Fix fix = forecast::clock_fix(session_.document.take(), *seen_at_, right.trimmed().toStdString());
    session_.document.edit([&](take::Take& t) { t = take::with_fix(t, fix); });
  } catch (const Error& e) {
    emit session_.trouble(QString::fromStdString(e.what()));
  }
}

void SourcesBar::show_copies() {
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  menu.addAction(say_q("With their own names and folders…"), this, [this] { copy_cards(""); });
  menu.addAction(say_q("Numbered in the order they were shot…"), this, [this] {
    bool given = false;
    const QString name = QInputDialog::getText(this, say_q("Numbered names"),
                                               say_q("The first shot is called (without its ending):"),
                                               QLineEdit::Normal, "boats-0001", &given);
    if (given && !name.trimmed().isEmpty()) copy_cards(name.trimmed().toStdString());
  });
  menu.exec(copy_->mapToGlobal(QPoint(0, copy_->height())));
}

void SourcesBar::copy_cards(const std::string& numbered_from) {
  const QString to = QFileDialog::getExistingDirectory(this, say_q("The folder to copy the cards to"));
  if (to.isEmpty()) return;
  ingest::CopyOrder order;
  order.cards = session_.frames.cards();
  order.to = to.toStdString();
  order.name = numbered_from;
  order.also = QFileDialog::getExistingDirectory(
                   this, say_q("A second copy, better on another disk (Cancel for none)"))
                   .toStdString();
  const auto outcome = std::make_shared<ingest::CopyOutcome>();
  session_.job.start(
      {say_q("Copying"),
       [order, outcome](const Work& work) {
         *outcome = ingest::copy(
             order,
             [&](const ingest::CopyProgress& p) {
               work.report(static_cast<std::size_t>(p.bytes_done / 1000000),
                           static_cast<std::size_t>(p.bytes / 1000000 + 1));
             },
             work.stop);
       },
       [this, outcome, to] {
         const QString files = QString::fromStdString(
             counted(static_cast<long long>(outcome->files.size()), "{} file", "{} files"));
         if (outcome->checked_twice)
           emit session_.told(
               say_q("%1 in %2, every one checked twice. The card may be emptied.").arg(files, to));
         else
           emit session_.trouble(
               say_q("%1 in %2, but not everything could be checked: do not empty the card.").arg(files, to));
       },
       [] { return true; }, " MB",
       say_q("The copying was stopped, for another take was opened. Do not empty the card; copy it again and "
             "it "
             "goes on where it was.")});
}

}  // namespace askcount::app

#include "moc_sources_bar.cpp"
