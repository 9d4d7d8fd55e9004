// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/cut_stage.h"
#include "advice/by_stage.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include "advice/film_advice.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/add_words.h"
#include "base/error.h"
#include "base/units.h"
#include "films/film.h"

namespace askcount::app {
namespace {

constexpr int kAsItWillBe = 1, kAsMade = 2;  // faces of the picture
constexpr double kNearly = 0.97;  // of the film's rate: pictures shown, and nobody sees what is left out

QString frame_words(long long frame, long long of) {
  return QString::fromStdString(say("frame ") + format_count(frame + 1) + say(" of ") + format_count(of));
}

}  // namespace

CutStage::CutStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(18, 10, 18, 6);
  first_ = new PictureFirst(this);
  pages_ = new Pages(first_);
  preview_ = new PreviewPlayer(session_, pages_);
  player_ = new FilmPlayer(pages_);
  view_ = new ViewPane(session_, *preview_, pages_);
  QWidget* strip = make_strip();
  place_ = new PicturePlace(pages_, first_);
  QWidget* side = make_side();
  lanes_ = new FilmLanes(session, *preview_, first_);
  first_->set(place_, side, lanes_);
  first_->set_strip(strip);
  rows->addWidget(first_);
  connect(sentence_, &Sentence::phrases_changed, this, [this] { lanes_->show_lanes(sentence_->lanes()); });
  connect(preview_, &PreviewPlayer::moved, this, &CutStage::follow_player);
  connect(player_, &FilmPlayer::moved, this, &CutStage::follow_player);
  connect(&session.playhead, &Playhead::moved, this, &CutStage::follow_playhead);
  connect(&session.preview, &Preview::filled, this, &CutStage::show_state);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.frames, &Frames::changed)
      .on(session.films, &Films::changed)
      .on(session.preview, &Preview::changed)
      .on(session.estimating, &Estimating::changed)
      .on(session.job, &Job::started)
      .on(session.job, &Job::ended);
  refresh();
}

/// Below the picture: play, and which of its faces it has.
QWidget* CutStage::make_strip() {
  auto* strip = new QWidget(first_);
  auto* row = new QHBoxLayout(strip);
  row->setContentsMargins(0, 4, 0, 0);
  row->setSpacing(12);
  play_ = new PressButton(say_q("Play"), false, strip);
  play_->setObjectName("play film");
  row->addWidget(play_);
  tabs_ = new WordTabs("cut pages", strip);
  tabs_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
  tabs_->add(say_q("frame and view"), view_, pages_);
  tabs_->add(say_q("as it will be"), preview_, pages_);
  tabs_->add(say_q("as it was made"), player_, pages_);
  row->addWidget(tabs_);
  state_ = new QLabel(strip);
  state_->setObjectName("film state");
  state_->setFont(word_font(9.5));
  state_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  state_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  row->addWidget(state_, 1);
  connect(play_, &QPushButton::clicked, this, &CutStage::play);
  connect(pages_, &QStackedWidget::currentChanged, this, [this] {
    if (as_made()) preview_->pause();
    if (!as_made() && player_->playing()) player_->toggle();
    show_state();
  });
  return strip;
}

QWidget* CutStage::make_side() {
  auto* side = new QWidget(first_);
  auto* rows = new QVBoxLayout(side);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(8);
  rows->addWidget(new FilmsBar(session_, side));
  sentence_ = new CutSentence(session_, side);
  rows->addWidget(sentence_);
  rows->addWidget(new AddWords(*sentence_, side));
  rows->addStretch(1);
  rows->addWidget(new QueuePane(session_, side));
  takes_ = new QLabel(side);
  takes_->setFont(word_font(9.5));
  takes_->setWordWrap(true);
  rows->addWidget(takes_);
  auto* row = new QHBoxLayout;
  row->setSpacing(10);
  make_ = new PressButton(say_q("Make the clip"), true, side);
  make_->setObjectName("make");
  row->addWidget(make_);
  still_ = new PressButton(say_q("Make one still"), false, side);
  still_->setObjectName("make still");
  still_->setToolTip(say_q("One picture of all frames: their mean, or where each place was brightest"));
  row->addWidget(still_);
  row->addStretch(1);
  rows->addLayout(row);
  connect(still_, &QPushButton::clicked, this, [this] { session_.films.make_still(session_.job); });
  connect(make_, &QPushButton::clicked, this, [this] { session_.films.make(); });
  return side;
}

void CutStage::play() {
  if (pages_->currentWidget() == view_) tabs_->choose(kAsItWillBe);  // at its full pace
  if (as_made())
    player_->toggle();
  else
    preview_->toggle();
}

void CutStage::entered() {
  refresh();
  preview_->seek(session_.films.film_frame(session_.playhead.at()));
}

void CutStage::showEvent(QShowEvent* event) {
  Stage::showEvent(event);
  session_.preview.look(true);
}

void CutStage::hideEvent(QHideEvent* event) {
  Stage::hideEvent(event);
  session_.preview.look(false);
  session_.estimating.want(false);
}

/// The frame of the take that the film shows is the one every stage looks at.
void CutStage::follow_player() {
  if (!isVisible() || following_) return;
  following_ = true;
  const long long frame = as_made() ? player_->frame() : preview_->frame();
  session_.playhead.set(session_.films.take_frame(frame));
  if (as_made()) preview_->seek(frame);
  following_ = false;
  show_state();
}

void CutStage::follow_playhead() {
  if (!isVisible() || following_) return;
  following_ = true;
  const long long frame = session_.films.film_frame(session_.playhead.at());
  if (session_.films.take_frame(preview_->frame()) != session_.playhead.at()) preview_->seek(frame);
  if (as_made()) player_->seek(frame);
  following_ = false;
  show_state();
}

void CutStage::show_state() {
  const bool plays = as_made() ? player_->playing() : preview_->playing();
  const auto small = session_.preview.small();
  session_.estimating.want(isVisible() && !plays && small && small->filled().resting &&
                           !session_.way.measuring());
  if (const QString words = plays ? say_q("Pause") : say_q("Play"); play_->text() != words) {
    play_->setText(words);
    play_->update();
  }
  const auto& timeline = session_.films.timeline();
  QStringList words;
  if (as_made()) {
    if (player_->opened() && session_.films.film())
      words << frame_words(player_->frame(), session_.films.film()->frames);
    if (session_.films.outcome() && session_.films.finished())
      words << say_q("made in %1, %2")
                   .arg(QString::fromStdString(format_length(session_.films.outcome()->seconds_taken, 0)),
                        bytes_words(static_cast<double>(session_.films.finished()->check.bytes)));
  } else if (timeline && session_.preview.now()) {
    words << frame_words(preview_->frame(), static_cast<long long>(timeline->frames()));
    const double fps = session_.preview.now()->order.fps.value();
    if (const double rate = preview_->picture_rate(); rate > 0 && rate < kNearly * fps)
      words << say_q("%1 pictures a second of %2")
                   .arg(QString::fromStdString(format_number(rate, 0)),
                        QString::fromStdString(format_number(fps, 0)));
    if (preview_->playing() && preview_->known() != render::Known::Whole)
      words << say_q("softer than it will be");
    if (const QString missing = session_.preview.words(); !missing.isEmpty())
      words << missing;
    else
      words << say_q("nothing rendered yet");
    if (session_.films.film()) words.removeOne(say_q("nothing rendered yet"));
  }
  state_->setText(words.join("; "));
  state_->setToolTip(state_->text());
  const QString takes = as_made() ? QString() : session_.estimating.words();
  takes_->setText(takes);
  takes_->setVisible(!takes.isEmpty());
}

void CutStage::refresh() {
  sentence_->show_wish();
  const image::Size frame = session_.films.frame_size();
  if (frame.width > 0 && frame.height > 0) first_->set_shape(frame.shape());
  const auto rate = films::rate_of(session_.document.take(), session_.films.wish());
  const int count = session_.films.count();
  const QString make = count == 1   ? say_q("Make the clip")
                       : count == 2 ? say_q("Make both films")
                                    : say_q("Make all %1 films").arg(count);
  if (make_->text() != make) {
    make_->setText(make);
    make_->updateGeometry();
  }
  still_->setEnabled(session_.frames.gathered().has_value() && rate.has_value() && !session_.job.running());
  make_->setEnabled(session_.frames.gathered().has_value() && rate.has_value());
  const bool there = session_.films.film().has_value();
  play_->setVisible(session_.frames.gathered().has_value() && rate.has_value());
  tabs_->set_there(kAsMade, there);
  if (there &&
      (shown_film_ != session_.films.number() || shown_at_ != session_.films.at() || !player_->opened())) {
    const bool again = shown_at_ == session_.films.at();
    shown_film_ = session_.films.number();
    shown_at_ = session_.films.at();
    player_->open(session_.films.file());
    if (again && session_.films.outcome()) tabs_->choose(kAsMade);
  }
  if (!there) {
    shown_film_ = 0;
    player_->close(say_q("There is no film yet."));
    if (as_made()) tabs_->choose(kAsItWillBe);
  }
  show_state();
}

Findings CutStage::findings() const {
  const Films& films = session_.films;
  advice::KnownFilm film{films.wish(), films.film(), nullptr, nullptr, nullptr, {}};
  if (films.timeline()) film.timeline = &*films.timeline();
  if (films.outcome()) film.outcome = &*films.outcome();
  if (films.finished()) film.finished = &*films.finished();
  if (!session_.frames.list()->empty()) film.frame = films.frame_size();
  advice::Known known;
  known.films.push_back(film);
  if (session_.frames.gathered()) known.frames.gathered = &*session_.frames.gathered();
  return advice::findings_on(advice::Stage::Cut, session_.document.take(), known);
}

QString CutStage::foot() const {
  return QString::fromStdString(session_.films.file().string());
}

std::optional<EmptyNote> CutStage::empty() const {
  if (!session_.document.card().empty() || session_.frames.gathered()) return {};
  return no_frames(say_q("The film is made of them once they are gathered."),
                   {EmptyNote::Way::ToGather, say_q("Look at the frames"),
                    say_q("On Gather: read the card or the folder first.")});
}

}  // namespace askcount::app

#include "moc_cut_stage.cpp"
