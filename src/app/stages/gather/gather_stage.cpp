// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/gather/gather_stage.h"
#include "advice/by_stage.h"

#include <algorithm>
#include <cmath>
#include <QHBoxLayout>
#include <QMenu>
#include <QVBoxLayout>

#include "advice/gather_advice.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/link_label.h"
#include "base/language.h"
#include "base/units.h"
#include "media/film_frames.h"
#include "media/kind.h"
#include "take/fix.h"

namespace askcount::app {
namespace {

QString said(const std::string& words) {
  return QString::fromStdString(words).toHtmlEscaped();
}

std::string name_of(const media::Frame& frame) {
  return media::name_of(frame.file());
}

/// How many pictures of the film there are to a frame.
std::string step_words(const std::vector<media::Frame>& frames) {
  const long long step = media::film_step(frames);
  return step == 1 ? say("every picture of it") : say("one of ") + format_count(step) + say(" pictures");
}

}  // namespace

GatherStage::GatherStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(18, 10, 18, 6);
  first_ = new PictureFirst(this);
  pages_ = new Pages(first_);
  picture_ = new PictureView(pages_);
  picture_->setObjectName("frame");
  picture_->follow_pointer([this] {
    if (real_pixels_) show_picture();
  });
  sheet_ = new ContactSheet(session, pictures_, pages_);
  QWidget* side = make_side();
  place_ = new PicturePlace(pages_, first_);
  lanes_ = new FrameLanes(session, first_);
  first_->set(place_, side, lanes_);
  rows->addWidget(first_);
  connect(sources_, &SourcesBar::read_anew, this, [this] { pictures_.forget(); });
  connect(answer_, &QLabel::linkActivated, this, &GatherStage::pressed);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.frames, &Frames::changed)
      .on(session.looking, &Looking::changed)
      .on(session.job, &Job::started)
      .on(session.job, &Job::ended);
  connect(&session.playhead, &Playhead::moved, this, &GatherStage::show_frame);
  connect(sheet_, &ContactSheet::chosen_changed, this, &GatherStage::show_frame);
  connect(&pictures_, &FramePictures::ready, this, &GatherStage::show_picture);
  connect(&session.frames, &Frames::changed, this, [this] {
    began_ = advice::began_by_journal(session_.document.file());
    if (isVisible()) session_.looking.start();
  });
  say_keys();
  refresh();
}

/// Beside the picture: what was found, what the frame is, and what is decided about it.
QWidget* GatherStage::make_side() {
  auto* side = new QWidget(first_);
  auto* rows = new QVBoxLayout(side);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(6);
  answer_ = new LinkLabel(side);
  answer_->setFont(word_font(13));
  answer_->setWordWrap(true);
  answer_->setObjectName("gathered");
  rows->addWidget(answer_);
  auto* line = new QHBoxLayout;
  tabs_ = new WordTabs("gather pages", side);
  tabs_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
  tabs_->add(say_q("One frame"), picture_, pages_);
  tabs_->add(say_q("All pictures"), sheet_, pages_);
  line->addWidget(tabs_);
  line->addStretch(1);
  rows->addLayout(line);
  strip_ = new NeighbourStrip(session_, pictures_, side);
  rows->addWidget(strip_);
  title_ = new QLabel(side);
  title_->setFont(word_font(11.5, QFont::Bold));
  title_->setWordWrap(true);
  title_->setObjectName("frame-title");
  text_ = new QLabel(side);
  text_->setFont(word_font(10));
  text_->setWordWrap(true);
  facts_ = new QLabel(side);
  facts_->setFont(figure_font(9));
  facts_->setWordWrap(true);
  facts_->setTextFormat(Qt::PlainText);
  rows->addWidget(title_);
  rows->addWidget(text_);
  rows->addWidget(facts_);
  add_decisions(rows);
  rows->addStretch(1);
  auto* hint =
      new QLabel(say_q("N next to look at · hold B to blink with the one before · Z actual pixels"), side);
  hint->setFont(word_font(9));
  hint->setWordWrap(true);
  hint->setForegroundRole(QPalette::PlaceholderText);
  rows->addWidget(hint);
  sources_ = new SourcesBar(session_, side);
  rows->addWidget(sources_, 0, Qt::AlignLeft);
  return side;
}

void GatherStage::add_decisions(QVBoxLayout* rows) {
  QWidget* side = rows->parentWidget();
  stand_in_ = new PressButton(say_q("Neighbours stand in"), true, side);
  leave_out_ = new PressButton(say_q("Leave it out (X)"), false, side);
  fine_ = new PressButton(say_q("It is fine (K)"), false, side);
  stand_in_->setObjectName("stand-in");
  leave_out_->setObjectName("leave-out");
  fine_->setObjectName("fine");
  ends_ = new PressButton(say_q("Ends…"), false, side);
  ends_->setObjectName("ends");
  ends_->setToolTip(say_q("Where the take begins and ends"));
  rows->addSpacing(4);
  rows->addWidget(stand_in_, 0, Qt::AlignLeft);
  auto* second = new QHBoxLayout;
  second->addWidget(leave_out_);
  second->addWidget(fine_);
  second->addWidget(ends_);
  second->addStretch(1);
  rows->addLayout(second);
  wire_decisions();
}

void GatherStage::wire_decisions() {
  connect(stand_in_, &QPushButton::clicked, this, [this] {
    const media::Frame* f = shown_frame();
    const inspect::Fault* fault = fault_here();
    if (f == nullptr) return;
    if (!f->set_aside && fault != nullptr && fault->remedy == inspect::Remedy::EndBefore && fault->frame > 0)
      end_before(fault->frame);
    else
      decide<fix::StandIn>(!f->set_aside);
  });
  connect(leave_out_, &QPushButton::clicked, this, &GatherStage::leave_out_or_take_back);
  connect(fine_, &QPushButton::clicked, this, [this] { decide<fix::CallFine>(true); });
  connect(ends_, &QPushButton::clicked, this, &GatherStage::show_ends);
}

void GatherStage::entered() {
  if (!session_.frames.gathered() && !session_.document.card().empty()) session_.frames.gather();
  session_.looking.start();
  show_frame();
}

void GatherStage::pressed(const QString& link) {
  if (link == "takes") choose_take();
  if (link == "look") next_fault(1);
  if (link == "sheet") tabs_->choose(1);
  if (link == "step") sources_->ask_film_step();
  if (link == "missing") {
    for (const inspect::Fault& f : session_.looking.faults())
      if (f.kind == inspect::FaultKind::Missing) {
        session_.playhead.set(static_cast<long long>(f.frame));
        break;
      }
  }
}

void GatherStage::choose_take() {
  const ingest::Gathered& g = *session_.frames.gathered();
  QMenu menu(this);
  for (std::size_t i = 0; i < g.takes.size(); ++i) {
    const ingest::FoundTake& t = g.takes[i];
    const auto at = t.start();
    const std::string words =
        counted(static_cast<long long>(t.frames->size()), "{} frame", "{} frames") +
        (t.interval_s ? say(" every ") + format_length(*t.interval_s) : "") +
        (at ? say(", from ") + format_clock(Instant(at->time_since_epoch()), "UTC") : "");
    QAction* action = menu.addAction(QString("%1  %2").arg(i + 1).arg(QString::fromStdString(words)));
    action->setCheckable(true);
    action->setChecked(i == g.chosen);
    connect(action, &QAction::triggered, this, [this, i] {
      session_.document.edit(
          [&](take::Take& t) { t = take::with_fix(t, fix::ChooseTake{static_cast<long long>(i + 1)}); });
    });
  }
  menu.exec(answer_->mapToGlobal(QPoint(180, 30)));
}

const media::Frame* GatherStage::shown_frame() const {
  if (const ingest::Dropped* d = sheet_->chosen()) return &d->picture;
  const auto& g = session_.frames.gathered();
  if (!g || g->frames->empty()) return nullptr;
  return &(*g->frames)[static_cast<std::size_t>(session_.playhead.at())];
}

const inspect::Fault* GatherStage::fault_here() const {
  const inspect::Fault* within = nullptr;
  for (const inspect::Fault& f : session_.looking.faults()) {
    const auto at = static_cast<std::size_t>(session_.playhead.at());
    if (f.frame == at) return &f;
    if (f.frame < at && at <= f.last) within = &f;
  }
  return within;
}

template <typename OfFrame>
void GatherStage::decide(bool on) {
  const media::Frame* f = shown_frame();
  if (f == nullptr) return;
  const Fix fix = OfFrame{name_of(*f), on};
  session_.document.edit([&](take::Take& t) { t = take::with_fix(t, fix); });
}

void GatherStage::end_before(std::size_t frame) {
  const Fix fix = fix::EndAt{name_of((*session_.frames.list())[frame - 1])};
  session_.document.edit([&](take::Take& t) { t = take::with_fix(t, fix); });
}

void GatherStage::show_ends() {
  const media::Frame* f = shown_frame();
  if (f == nullptr) return;
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  const auto to = [this](const Fix& fix) {
    session_.document.edit([&](take::Take& t) { t = take::with_fix(t, fix); });
  };
  const take::GatherWish& w = session_.document.take().gather;
  menu.addAction(say_q("Begin the take here"), this, [to, name = name_of(*f)] { to(fix::BeginAt{name}); });
  menu.addAction(say_q("End the take here"), this, [to, name = name_of(*f)] { to(fix::EndAt{name}); });
  menu.addSeparator();
  menu.addAction(say_q("From its first frame again"), this, [to] { to(fix::BeginAt{""}); })
      ->setEnabled(!w.from.empty());
  menu.addAction(say_q("To its last frame again"), this, [to] { to(fix::EndAt{""}); })
      ->setEnabled(!w.until.empty());
  menu.exec(ends_->mapToGlobal(QPoint(0, ends_->height())));
}

void GatherStage::leave_out_or_take_back() {
  if (const ingest::Dropped* d = sheet_->chosen()) {
    const bool by_hand = d->why == ingest::Dropped::Why::ByHand;
    if (by_hand)
      decide<fix::LeaveOut>(false);
    else
      decide<fix::Keep>(true);
  } else {
    decide<fix::LeaveOut>(true);
  }
}

void GatherStage::next_fault(int step) {
  const auto& faults = session_.looking.faults();
  if (faults.empty()) return;
  const auto at = static_cast<std::size_t>(session_.playhead.at());
  const inspect::Fault* next = nullptr;
  for (const inspect::Fault& f : faults) {
    if (inspect::severity_of(f.kind) == Severity::Ok) continue;
    if (step > 0 && f.frame > at && (next == nullptr || f.frame < next->frame)) next = &f;
    if (step < 0 && f.frame < at && (next == nullptr || f.frame > next->frame)) next = &f;
  }
  if (next == nullptr) next = step > 0 ? &faults.front() : &faults.back();
  session_.playhead.set(static_cast<long long>(next->frame));
}

void GatherStage::say_keys() {
  keys_.add(Qt::Key_N, say_q("To the next frame that wants a look"), [this] { next_fault(1); });
  keys_.add(
      Qt::Key_N, say_q("To the one before"), [this] { next_fault(-1); }, Qt::ShiftModifier);
  keys_.add(Qt::Key_X, say_q("Leave the frame out, or take it back"), [this] { leave_out_or_take_back(); });
  keys_.add(Qt::Key_K, say_q("The frame is fine"), [this] {
    if (fault_here() != nullptr) decide<fix::CallFine>(true);
  });
  const auto blink = [this](bool on) {
    blinking_ = on;
    show_picture();
  };
  keys_.add_held(
      Qt::Key_B, say_q("Held: the frame before"), [blink] { blink(true); }, [blink] { blink(false); });
  keys_.add(Qt::Key_Z, say_q("Actual pixels, or the whole picture"), [this] {
    real_pixels_ = !real_pixels_;
    show_picture();
  });
}

bool GatherStage::key(QKeyEvent* event) {
  return session_.frames.gathered() && Stage::key(event);
}

void GatherStage::refresh() {
  const Colours& c = colours();
  const bool card = !session_.document.card().empty();
  sources_->refresh(shown_frame());
  if (!session_.frames.gathered()) {
    answer_->setText(card ? say_q("The card has not been read yet.")
                          : say_q("No frames yet. Shoot the take, or name a card."));
    for (QLabel* l : {title_, text_, facts_}) l->clear();
    for (PressButton* b : {stand_in_, leave_out_, fine_, ends_}) b->hide();
    picture_->set({}, say_q("The frames appear here."));
    return;
  }
  const ingest::Gathered& g = *session_.frames.gathered();
  const auto answer = [&](const std::string& s) {
    return QString("<span style='background:%1;color:%2;font-weight:700'>&nbsp;%3&nbsp;</span>")
        .arg(c.answer.name(), c.answer_ink.name(), said(s));
  };
  const auto link = [&](const char* to, const std::string& s) {
    return QString("<a href='%1' style='color:%2;font-weight:700'>%3</a>")
        .arg(to, c.field.name(), said(s).replace(' ', "&nbsp;"));
  };
  const std::size_t cards = session_.frames.cards().size();
  const bool film = media::is_in_film(g.frames->front().file());
  QString text = cards > 1 ? say_q("On %1 cards there ").arg(cards)
                           : QString(film ? say_q("In the film there ") : say_q("On the card there "));
  text += g.takes.size() > 1
              ? say_q("are ") +
                    link("takes", counted(static_cast<long long>(g.takes.size()), "{} take", "{} takes")) +
                    say_q(". This one has ")
              : say_q("is one take. It has ");
  text += answer(counted(static_cast<long long>(g.frames->size()), "{} frame", "{} frames"));
  if (g.exposures_each > 1) text += say_q(" of %1 exposures").arg(g.exposures_each);
  if (g.interval_s) text += say_q(", one every ") + answer(format_length(*g.interval_s));
  if (film) text += ", " + link("step", step_words(*g.frames));
  long long lost = 0, wanting = 0;
  for (const ingest::Missing& m : g.missing) lost += m.frames;
  for (const inspect::Fault& f : session_.looking.faults())
    wanting += inspect::severity_of(f.kind) == Severity::Ok || f.kind == inspect::FaultKind::Missing ? 0 : 1;
  text += lost > 0 ? "; " + link("missing",
                                 format_count(lost) + (lost == 1 ? say(" is missing") : say(" are missing")))
                   : say_q("; none is missing");
  if (!session_.looking.complete() && session_.looking.trouble().isEmpty())
    text += say_q(", %1 of %2 looked at").arg(session_.looking.known()).arg(g.frames->size());
  else if (wanting > 0)
    text += ", " +
            link("look", format_count(wanting) + (wanting == 1 ? say(" wants a look") : say(" want a look")));
  if (!g.dropped.empty())
    text += ", " + link("sheet", format_count(static_cast<long long>(g.dropped.size())) + say(" left out"));
  answer_->setText(text + ".");
  show_frame();
}

QString GatherStage::facts_of(const media::Frame& f) const {
  const media::ShotInfo& i = f.info();
  QStringList words;
  if (i.captured)
    words << QString::fromStdString(format_clock(Instant(i.captured->time_since_epoch()), "UTC", true));
  QStringList dials;
  if (i.shutter_s) dials << QString::fromStdString(format_shutter(*i.shutter_s));
  if (i.f_number) dials << "f/" + QString::fromStdString(format_number(*i.f_number, 1));
  if (i.iso) dials << "ISO " + QString::fromStdString(format_number(*i.iso, 0));
  if (!dials.isEmpty()) words << dials.join(" ");
  words << QString::fromStdString(media::name_of(f.file()));
  if (!f.exposures.front().raw.empty() && !f.exposures.front().compressed.empty())
    words << say_q("raw and JPEG");
  if (f.exposures.size() > 1) words << say_q("%1 exposures").arg(f.exposures.size());
  words << QString("%1 × %2").arg(i.size.width).arg(i.size.height);
  if (!i.body.empty()) words << QString::fromStdString(i.body);
  if (i.stars > 0) words << QString::fromStdString(counted(i.stars, "{} star", "{} stars"));
  return words.join(" · ");
}

void GatherStage::show_frame() {
  if (!isVisible() || !session_.frames.gathered()) return;
  const media::Frame* f = shown_frame();
  if (f == nullptr) return;
  const ingest::Dropped* dropped = sheet_->chosen();
  const inspect::Fault* fault = dropped == nullptr ? fault_here() : nullptr;
  const QString number = QString::fromStdString(format_count(session_.playhead.at() + 1));
  if (dropped != nullptr) {
    title_->setText(say_q("Left out: ") + QString::fromStdString(media::name_of(dropped->file())));
    text_->setText(QString::fromStdString(dropped->text));
  } else {
    title_->setText(
        say_q("Frame %1 of %2").arg(number, QString::fromStdString(format_count(session_.playhead.count()))));
    text_->setText(f->set_aside ? say_q("Its neighbours stand in for it in films.")
                   : fault != nullptr
                       ? QString::fromStdString(
                             (static_cast<long long>(fault->frame) == session_.playhead.at()
                                  ? ""
                                  : say("Since frame ") +
                                        format_count(static_cast<long long>(fault->frame) + 1) + ": ") +
                             fault->text)
                   : session_.looking.known() > static_cast<std::size_t>(session_.playhead.at()) &&
                           session_.looking.complete()
                       ? say_q("Nothing is wrong with it.")
                       : QString());
  }
  facts_->setText(facts_of(*f));
  sources_->refresh(f);
  const bool alone =
      fault != nullptr && fault->remedy == inspect::Remedy::Neighbours && fault->last - fault->frame < 6;
  const bool ends = fault != nullptr && fault->remedy == inspect::Remedy::EndBefore && fault->frame > 0;
  stand_in_->setVisible(dropped == nullptr && (alone || ends || f->set_aside));
  stand_in_->setText(
      f->set_aside ? say_q("Show it again")
      : ends       ? say_q("End the take at %1")
                   .arg(QString::fromStdString(format_count(static_cast<long long>(fault->frame))))
             : say_q("Neighbours stand in"));
  leave_out_->setVisible(true);
  ends_->setVisible(dropped == nullptr);
  leave_out_->setText(dropped != nullptr ? say_q("Take it back (X)") : say_q("Leave it out (X)"));
  fine_->setVisible(fault != nullptr && !f->set_aside);
  show_picture();
}

QString GatherStage::picture_words() const {
  return title_->text() + (text_->text().isEmpty() ? "" : ": " + text_->text());
}

void GatherStage::show_picture() {
  if (!isVisible() || !session_.frames.gathered()) return;
  const media::Frame* f = shown_frame();
  if (f == nullptr) return;
  const auto& frames = *session_.frames.list();
  const auto at = static_cast<std::size_t>(session_.playhead.at());
  const bool dropped = sheet_->chosen() != nullptr;
  const media::Frame* shown = blinking_ && !dropped && at > 0 ? &frames[at - 1] : f;
  if (real_pixels_)
    picture_->set(pictures_.pixels(*shown, picture_->size(), picture_->pointed()));
  else
    picture_->set(pictures_.picture(*shown, pixels_to_read(*picture_)));
  const image::Size size = media::upright_size(*shown);
  if (size.width > 0 && size.height > 0) first_->set_shape(size.shape());
}

Findings GatherStage::findings() const {
  if (!session_.frames.gathered()) return {};
  advice::Known known;
  known.frames.gathered = &*session_.frames.gathered();
  if (session_.looking.complete()) {
    known.frames.look = &session_.looking.look();
    known.frames.faults = session_.looking.faults();
    known.frames.began = began_;
  }
  return advice::findings_on(advice::Stage::Gather, session_.document.take(), known);
}

QString GatherStage::foot() const {
  QString words = QString::fromStdString(session_.document.card().string());
  if (session_.looking.running())
    words += say_q(" · looking at frame %1 of %2")
                 .arg(session_.looking.known())
                 .arg(session_.frames.list()->size());
  else if (!session_.looking.trouble().isEmpty())
    words += " · " + session_.looking.trouble();
  return words.isEmpty() ? words : words + say_q(" · Files on the cards are only read");
}

std::optional<EmptyNote> GatherStage::empty() const {
  if (!session_.document.card().empty() || session_.frames.gathered()) return {};
  return no_frames("", {EmptyNote::Way::ToShoot, say_q("Shoot the take"),
                        say_q("With the stand-in, or beside a real camera.")});
}

}  // namespace askcount::app

#include "moc_gather_stage.cpp"
