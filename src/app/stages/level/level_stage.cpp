// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/level_stage.h"
#include "advice/by_stage.h"

#include <algorithm>
#include <cmath>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QMenu>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/add_words.h"
#include "app/widgets/image.h"
#include "app/widgets/picture_view.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "films/film.h"
#include "look/colour.h"
#include "look/table.h"
#include "optics/judge.h"

namespace askcount::app {
namespace {

constexpr double kLongestReach_s = 10;

QString file_words() {
  return say_q("Looks of Ask Count (*.look)");
}

}  // namespace

LevelStage::LevelStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(18, 10, 18, 6);
  first_ = new PictureFirst(this);
  split_ = new SplitView(first_);
  place_ = new PicturePlace(split_, first_);
  QWidget* below = make_below();
  first_->set(place_, make_side(), below);
  rows->addWidget(first_);
  wire_split();
  follow_session();
  say_keys();
  refresh();
}

/// Beside the picture: the look at its anchors, or the lens; and what evens the light.
QWidget* LevelStage::make_side() {
  auto* side = new QWidget(first_);
  auto* rows = new QVBoxLayout(side);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(8);
  auto* top = new QHBoxLayout;
  top->setSpacing(8);
  tabs_ = new WordTabs("level pages", side);
  tabs_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
  top->addWidget(tabs_);
  top->addStretch(1);
  pick_ = new PressButton(say_q("Pick white"), false, side);
  pick_->setObjectName("pick");
  pick_->setToolTip(say_q("Then click a place that should be grey"));
  looks_menu_ = new PressButton(say_q("Looks…"), false, side);
  looks_menu_->setObjectName("looks");
  top->addWidget(pick_);
  top->addWidget(looks_menu_);
  rows->addLayout(top);
  auto* pages = new Pages(side);
  QWidget* look = make_look_page();
  lens_ = new LensPanel(session_, pages);
  tabs_->add(say_q("Look"), look, pages);
  tabs_->add(say_q("Lens and sensor"), lens_, pages);
  rows->addWidget(pages, 1);
  make_sentence(rows);
  connect(pages, &QStackedWidget::currentChanged, this, [this] {
    split_->set_drag(lens_->isVisible() ? SplitView::Drag::Rings : SplitView::Drag::Split);
    show_rings();
    emit foot_changed();
  });
  return side;
}

QWidget* LevelStage::make_look_page() {
  auto* page = new QWidget(this);
  auto* rows = new QVBoxLayout(page);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(4);
  anchor_words_ = new QLabel(page);
  anchor_words_->setFont(word_font(9.5));
  rows->addWidget(anchor_words_);
  anchors_ = new AnchorStrip(session_, page);
  constexpr int kAnchors = 104;
  anchors_->setMaximumHeight(kAnchors);
  rows->addWidget(anchors_, 1);
  auto* across = new QHBoxLayout;
  across->setSpacing(14);
  auto* values = new QVBoxLayout;
  values->setSpacing(6);
  values_ = new LookSentence(session_, *lanes_, page);
  values->addWidget(values_);
  values->addWidget(new AddWords(*values_, page));
  values->addStretch(1);
  across->addLayout(values, 1);
  auto* tones = new QVBoxLayout;
  tones->setSpacing(4);
  tones->addWidget(make_heading(say_q("Spread of tones"), page));
  spread_ = new SpreadView(page);
  constexpr int kTones = 110;
  spread_->setMaximumHeight(kTones);
  tones->addWidget(spread_, 1);
  spread_words_ = new QLabel(page);
  spread_words_->setFont(word_font(9.5));
  spread_words_->setWordWrap(true);
  tones->addWidget(spread_words_);
  tones->addStretch(1);
  across->addLayout(tones, 1);
  rows->addLayout(across, 3);
  return page;
}

/// Along the film: its brightness, and the values of the look that were changed.
QWidget* LevelStage::make_below() {
  auto* below = new QWidget(first_);
  auto* rows = new QVBoxLayout(below);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(4);
  chart_ = new BrightnessChart(session_, below);
  rows->addWidget(chart_, 1);
  lanes_ = new LookLanes(session_, below);
  rows->addWidget(lanes_);
  return below;
}

void LevelStage::wire_split() {
  connect(looks_menu_, &QPushButton::clicked, this, &LevelStage::show_looks_menu);
  connect(pick_, &QPushButton::clicked, this, [this] {
    split_->set_drag(split_->drag() == SplitView::Drag::Pick ? SplitView::Drag::Split
                                                             : SplitView::Drag::Pick);
    emit foot_changed();
  });
  connect(split_, &SplitView::resized, this, &LevelStage::show_frame);
  connect(split_, &SplitView::marked, this, &LevelStage::mark);
  connect(split_, &SplitView::picked, this, [this](const QPointF& place) {
    split_->drag() == SplitView::Drag::Rings ? press_ring(place) : pick(place);
  });
}

void LevelStage::follow_session() {
  darkroom_.read_through(session_.optics.source());
  connect(&session_.optics, &Optics::changed, this, [this] {
    darkroom_.read_through(session_.optics.source());
    show_frame();
    show_rings();
    quiet_.start();
  });
  constexpr int kQuiet_ms = 1500;
  quiet_.setSingleShot(true);
  quiet_.setInterval(kQuiet_ms);
  connect(&quiet_, &QTimer::timeout, this, &LevelStage::measure);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session_.levelling, &Levelling::changed)
      .on(session_.frames, &Frames::changed)
      .on(session_.document, &Document::changed);
  connect(&session_.levelling, &Levelling::looks_changed, this, &LevelStage::show_frame);
  connect(&session_.document, &Document::replaced, this, [this] {
    darkroom_.forget();
    split_->clear();
  });
  connect(&session_.playhead, &Playhead::moved, this, &LevelStage::show_frame);
  connect(&session_.job, &Job::ended, this, [this](const QString& trouble, bool cancelled) {
    if (trouble.isEmpty() && !cancelled) measure();  // it waited for other work
  });
  connect(&darkroom_, &Darkroom::ready, this, &LevelStage::show_frame);
}

void LevelStage::make_sentence(QVBoxLayout* rows) {
  auto* line = new QHBoxLayout;
  line->setSpacing(10);
  sentence_ = new Sentence(this, 10.5);
  sentence_->add(say_q("Smoothed over"));
  reach_ = sentence_->add_slot(say_q("seconds of film on either side over which flicker is smoothed"));
  sentence_->add(say_q("of film,"));
  strength_ = sentence_->add_slot(say_q("share of the flicker that is removed"));
  sentence_->add(say_q("of the flicker removed."));
  wire(
      session_, sentence_, reach_,
      [](take::Take& t, const std::string& text) {
        t.level.reach_s = parse_number(text, 0.02, kLongestReach_s, say("The reach"));
      },
      [](take::Take& t, int n) {
        t.level.reach_s = std::clamp(t.level.reach_s + 0.1 * n, 0.1, kLongestReach_s);
      });
  wire(
      session_, sentence_, strength_,
      [](take::Take& t, const std::string& text) {
        t.level.strength = parse_number(text, 0, 100, say("The share")) / 100;
      },
      [](take::Take& t, int n) { t.level.strength = std::clamp(t.level.strength + 0.05 * n, 0.0, 1.0); });
  rows->addWidget(sentence_);
  parts_ = new PressButton(say_q("Measured: all of it…"), false, this);
  parts_->setObjectName("parts");
  line->addWidget(parts_);
  numbers_ = new QLabel(this);
  numbers_->setFont(word_font(10));
  numbers_->setTextFormat(Qt::RichText);
  numbers_->setWordWrap(true);
  numbers_->setObjectName("flicker");
  line->addWidget(numbers_, 1);
  rows->addLayout(line);
  connect(parts_, &QPushButton::clicked, this, &LevelStage::show_parts_menu);
}

std::optional<size_t> LevelStage::frame() const {
  const auto n = static_cast<size_t>(session_.playhead.at());
  if (!session_.frames.gathered() || n >= session_.frames.list()->size()) return {};
  return n;
}

look::Look LevelStage::look_here() const {
  return look::look_at(session_.levelling.looks(), static_cast<double>(session_.playhead.at()));
}

void LevelStage::entered() {
  measure();
  show_frame();
}

void LevelStage::measure() {
  if (isVisible() && session_.frames.gathered() &&
      (!session_.levelling.evenness() || session_.levelling.stale()))
    session_.levelling.start();
}

void LevelStage::refresh() {
  const Colours& c = colours();
  const take::LevelWish& w = session_.document.take().level;
  reach_->set(QString::fromStdString(format_number(w.reach_s, 2)) + " s", SlotField::Kind::Film);
  strength_->set(QString::fromStdString(format_number(100 * w.strength, 0)) + " %", SlotField::Kind::Plain);
  sentence_->reflow();
  parts_->setText(w.measured.empty() ? say_q("Measured: all of it…") : say_q("Measured: a part…"));
  split_->set_measured(films::smoothing_of(session_.document.take()).measured);
  if (!session_.levelling.evenness()) {
    numbers_->setText(session_.frames.gathered() ? say_q("not measured yet")
                                                 : say_q("gather the frames first"));
  } else {
    const level::Evenness& e = *session_.levelling.evenness();
    numbers_->setText(QString(say_q("flicker <b>%1</b> stops before, <span style='background:%2;color:%3;"
                                    "font-weight:700'>&nbsp;%4 after&nbsp;</span>"))
                          .arg(QString::fromStdString(level::flicker_words(e.most_before())), c.answer.name(),
                               c.answer_ink.name(),
                               QString::fromStdString(level::flicker_words(e.most_after()))));
  }
  show_frame();
}

void LevelStage::show_frame() {
  if (!isVisible()) return;
  const auto n = frame();
  if (!n) return split_->clear();
  const media::Frame& shown = (*session_.frames.list())[*n];
  split_->set(darkroom_.developed(shown, session_.levelling.plan(*n, true), pixels_to_read(*split_)), {});
  const QImage developed = darkroom_.developed(shown, session_.levelling.plan(*n), pixels_to_read(*split_));
  split_->set({}, developed);
  if (!developed.isNull()) first_->set_shape(static_cast<double>(developed.width()) / developed.height());
  if (!developed.isNull()) spread_->set(image::spread_of(coded_of(developed)));
  const auto& anchors = session_.levelling.looks().anchors;
  const QString number = QString::fromStdString(format_count(session_.playhead.at() + 1));
  QString words = say_q("frame ") + number;
  if (session_.levelling.evenness() && *n < session_.levelling.evenness()->frames.size()) {
    const double by = session_.levelling.evenness()->frames[*n].correction();
    words += say_q(", evened by %1%2 stops")
                 .arg(by > 0.0005 ? "+" : "")
                 .arg(QString::fromStdString(format_number(by, 2)));
  }
  spread_words_->setText(words);
  if (anchors.empty())
    anchor_words_->setText(anchors_->shown().empty() ? ""
                                                     : say_q("No anchors yet; these frames are worth one"));
  else
    anchor_words_->setText(
        QString::fromStdString(counted(static_cast<long long>(anchors.size()), "{} anchor", "{} anchors")));
}

void LevelStage::say_keys() {
  keys_.add_once(Qt::Key_A, say_q("Set or remove an anchor at this frame"), [this] { toggle_anchor(); });
  keys_.add(Qt::Key_Comma, say_q("To the anchor before"), [this] { to_anchor(-1); });
  keys_.add(Qt::Key_Period, say_q("To the next anchor"), [this] { to_anchor(1); });
  keys_.add_held(
      Qt::Key_B, say_q("Held: the frame as shot"), [this] { split_->set_as_shot(true); },
      [this] { split_->set_as_shot(false); });
  keys_.add(Qt::Key_Escape, say_q("Leave picking, drawing or brushing"), [this] {
    split_->set_drag(SplitView::Drag::Split);
    emit foot_changed();
  });
}

bool LevelStage::key(QKeyEvent* event) {
  const bool nothing_to_leave =
      split_->drag() == SplitView::Drag::Split || split_->drag() == SplitView::Drag::Rings;
  return !(event->key() == Qt::Key_Escape && nothing_to_leave) && Stage::key(event);
}

void LevelStage::toggle_anchor() {
  if (!frame()) return;
  const long long at = session_.playhead.at();
  const look::Look here = look_here();
  session_.document.edit([&](take::Take& t) {
    const size_t before = t.look.anchors.size();
    look::remove_anchor(t.look.anchors, at);
    if (t.look.anchors.size() == before) look::set_anchor(t.look.anchors, at, here);
  });
}

void LevelStage::to_anchor(int direction) {
  const long long at = session_.playhead.at();
  std::optional<long long> to;
  for (const look::Anchor& a : session_.levelling.looks().anchors) {
    if (direction > 0 && a.frame > at && !to) to = a.frame;
    if (direction < 0 && a.frame < at) to = a.frame;
  }
  if (to) session_.playhead.set(*to);
}

void LevelStage::suggest() {
  if (!session_.levelling.evenness()) return;
  const look::Looks now = session_.levelling.looks();
  session_.document.edit([&](take::Take& t) {
    for (const size_t n : films::suggested_anchors(*session_.levelling.evenness()))
      look::set_anchor(t.look.anchors, static_cast<long long>(n), look::look_at(now, static_cast<double>(n)));
  });
}

void LevelStage::pick(const QPointF& place) {
  const auto n = frame();
  if (!n) return;
  const auto light = darkroom_.light_at((*session_.frames.list())[*n], session_.levelling.plan(*n, true),
                                        pixels_to_read(*split_), place);
  split_->set_drag(SplitView::Drag::Split);
  emit foot_changed();
  if (!light) return;
  const auto white = look::pick_white(*light, session_.levelling.looks().as_shot_k);
  if (!white) {
    emit session_.trouble(say_q(
        "That place cannot be grey: no white balance from 2,000 to 15,000 K makes it so. Pick another."));
    return;
  }
  look::Look here = look_here();
  here.warmth_k = std::round(white->warmth_k / 10) * 10;
  here.cast = std::round(white->cast * 100) / 100;
  session_.document.edit(
      [&](take::Take& t) { look::set_anchor(t.look.anchors, session_.playhead.at(), here); });
}

void LevelStage::show_rings() {
  std::vector<SplitView::Ring> rings;
  const auto n = frame();
  if (n && lens_->isVisible()) {
    const media::ShotInfo& info = (*session_.frames.list())[*n].info();
    const image::Size full = image::upright(info.size, info.orientation);
    const image::RectF part = session_.levelling.plan(*n, true).part;
    for (const optics::Spot& s : session_.document.take().optics.spots) {
      const auto at = session_.optics.source()->shown_at(s.x, s.y, full);
      rings.push_back(
          {{(at[0] - part.x) / part.width, (at[1] - part.y) / part.height}, s.radius / part.width});
    }
  }
  split_->set_rings(rings);
}

void LevelStage::press_ring(const QPointF& place) {
  const auto n = frame();
  if (!n) return;
  const media::ShotInfo& info = (*session_.frames.list())[*n].info();
  const image::Size full = image::upright(info.size, info.orientation);
  const image::RectF part = session_.levelling.plan(*n, true).part;
  const auto at = session_.optics.source()->shot_at(part.x + place.x() * part.width,
                                                    part.y + place.y() * part.height, full);
  session_.document.edit([&](take::Take& t) {
    constexpr double kNear = 0.012;  // of the width
    const auto gone = std::erase_if(t.optics.spots, [&](const optics::Spot& s) {
      return std::hypot(s.x - at[0], (s.y - at[1]) / full.shape()) < std::max(kNear, 1.3 * s.radius);
    });
    if (gone == 0) t.optics.spots.push_back({at[0], at[1], optics::Spot{}.radius});
  });
}

void LevelStage::show_looks_menu() {
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  const bool there = frame().has_value(), any = !session_.levelling.looks().anchors.empty();
  menu.addAction(say_q("Set or remove an anchor here  (A)"), this, [this] { toggle_anchor(); })
      ->setEnabled(there);
  menu.addAction(say_q("Anchors where the light changes most"), this, [this] { suggest(); })
      ->setEnabled(session_.levelling.evenness() &&
                   !films::suggested_anchors(*session_.levelling.evenness()).empty());
  menu.addAction(say_q("Remove all anchors"), this,
                 [this] { session_.document.edit([](take::Take& t) { t.look.anchors.clear(); }); })
      ->setEnabled(any);
  menu.addSeparator();
  menu.addAction(say_q("Copy this look"), this, [this] { copied_ = look_here(); })->setEnabled(there);
  menu.addAction(say_q("Paste the copied look here"), this,
                 [this] {
                   session_.document.edit([&](take::Take& t) {
                     look::set_anchor(t.look.anchors, session_.playhead.at(), *copied_);
                   });
                 })
      ->setEnabled(there && copied_.has_value());
  menu.addSeparator();
  menu.addAction(say_q("Load looks…"), this, [this] { open_looks(); });
  menu.addAction(say_q("Save looks…"), this, [this] { save_looks(); })->setEnabled(any);
  menu.addAction(say_q("A colour table that comes last (.cube)…"), this, [this] { open_cube(); });
  menu.addAction(say_q("No colour table"), this,
                 [this] { session_.document.edit([](take::Take& t) { t.look.cube.clear(); }); })
      ->setEnabled(!session_.document.take().look.cube.empty());
  menu.addAction(say_q("This look as a colour table…"), this, [this] { save_cube(); })->setEnabled(there);
  menu.exec(looks_menu_->mapToGlobal(QPoint(0, looks_menu_->height())));
}

void LevelStage::open_looks() {
  const QString file = QFileDialog::getOpenFileName(this, say_q("Load looks"), {}, file_words());
  if (file.isEmpty()) return;
  try {
    const auto anchors = look::load_looks(file.toStdString());
    session_.document.edit([&](take::Take& t) { t.look.anchors = anchors; });
  } catch (const Error& e) {
    emit session_.trouble(QString::fromUtf8(e.what()));
  }
}

void LevelStage::save_looks() {
  const QString file = QFileDialog::getSaveFileName(this, say_q("Save looks"), "take.look", file_words());
  if (file.isEmpty()) return;
  try {
    look::save_looks(session_.document.take().look.anchors, file.toStdString());
    emit session_.told(say_q("The looks are in ") + file + ".");
  } catch (const Error& e) {
    emit session_.trouble(QString::fromUtf8(e.what()));
  }
}

void LevelStage::open_cube() {
  const QString file =
      QFileDialog::getOpenFileName(this, say_q("A colour table"), {}, say_q("Colour tables (*.cube)"));
  if (file.isEmpty()) return;
  try {
    look::load_cube(file.toStdString());
    session_.document.edit([&](take::Take& t) { t.look.cube = file.toStdString(); });
  } catch (const Error& e) {
    emit session_.trouble(QString::fromUtf8(e.what()));
  }
}

void LevelStage::save_cube() {
  const QString file = QFileDialog::getSaveFileName(this, say_q("This look as a colour table"), "look.cube",
                                                    say_q("Colour tables (*.cube)"));
  if (file.isEmpty()) return;
  try {
    look::save_cube(
        look::table_of(look_here(), session_.levelling.looks().as_shot_k, session_.document.take().name),
        file.toStdString());
    emit session_.told(say_q("The table is in ") + file + ".");
  } catch (const Error& e) {
    emit session_.trouble(QString::fromUtf8(e.what()));
  }
}

void LevelStage::show_parts_menu() {
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  menu.addAction(say_q("All of the picture"), this,
                 [this] { session_.document.edit([](take::Take& t) { t.level.measured.clear(); }); });
  menu.addSeparator();
  using Drag = SplitView::Drag;
  menu.addAction(say_q("Only a box that I draw"), this, [this] { begin_marking(Marking::Only, Drag::Box); });
  menu.addAction(say_q("Only what I brush over"), this,
                 [this] { begin_marking(Marking::Only, Drag::Brush); });
  menu.addAction(say_q("Without a box that I draw"), this,
                 [this] { begin_marking(Marking::Without, Drag::Box); });
  menu.addAction(say_q("Without what I brush over"), this,
                 [this] { begin_marking(Marking::Without, Drag::Brush); });
  menu.addSeparator();
  QAction* parts = menu.addAction(say_q("Hold parts that flicker on their own"));
  parts->setCheckable(true);
  parts->setChecked(session_.document.take().level.parts);
  connect(parts, &QAction::toggled, this,
          [this](bool on) { session_.document.edit([&](take::Take& t) { t.level.parts = on; }); });
  const bool brackets = session_.frames.gathered() &&
                        std::any_of(session_.frames.list()->begin(), session_.frames.list()->end(),
                                    [](const media::Frame& f) { return f.exposures.size() > 1; });
  if (brackets) {
    menu.addSeparator();
    using media::Blend;
    for (const auto& [blend, words] :
         {std::pair{Blend::Merged, say_q("Brackets: one picture of all exposures")},
          {Blend::Fused, say_q("Brackets: each part from the exposure that shows it best")},
          {Blend::Middle, say_q("Brackets: the middle exposure alone")}}) {
      QAction* action = menu.addAction(words, this, [this, blend = blend] {
        session_.document.edit([&](take::Take& t) { t.level.brackets = blend; });
      });
      action->setCheckable(true);
      action->setChecked(session_.document.take().level.brackets == blend);
    }
  }
  menu.exec(parts_->mapToGlobal(QPoint(0, parts_->height())));
}

void LevelStage::begin_marking(Marking what, SplitView::Drag how) {
  marking_ = what;
  split_->set_drag(how);
  emit foot_changed();
}

void LevelStage::mark(const std::vector<int>& parts) {
  const bool brush = split_->drag() == SplitView::Drag::Brush;
  session_.document.edit([&](take::Take& t) {
    std::vector<double>& measured = t.level.measured;
    if (marking_ == Marking::Only) {
      if (!brush) measured.clear();
      for (const int p : parts)
        if (std::find(measured.begin(), measured.end(), p + 1) == measured.end()) measured.push_back(p + 1);
    } else {
      if (measured.empty())
        for (int p = 0; p < image::Luminance::kParts; ++p) measured.push_back(p + 1);
      for (const int p : parts) std::erase(measured, p + 1);
    }
    std::sort(measured.begin(), measured.end());
  });
  if (!brush) split_->set_drag(SplitView::Drag::Split);
  emit foot_changed();
}

Findings LevelStage::findings() const {
  if (!session_.levelling.evenness()) return {};
  advice::Known known;
  known.evenness = &*session_.levelling.evenness();
  if (session_.frames.gathered()) known.frames.gathered = &*session_.frames.gathered();
  known.lens = session_.optics.known();
  return advice::findings_on(advice::Stage::Level, session_.document.take(), known);
}

QString LevelStage::foot() const {
  switch (split_->drag()) {
    case SplitView::Drag::Pick:
      return say_q("Click a place that should be grey; Escape cancels");
    case SplitView::Drag::Box:
      return say_q("Draw a box over the picture; Escape leaves it");
    case SplitView::Drag::Rings:
      return say_q("Click a ring to remove it, or elsewhere to add one; arrows step the chosen value");
    case SplitView::Drag::Brush:
      return say_q("Brush over the picture; Escape when it is done");
    default:
      return session_.levelling.evenness()
                 ? say_q(
                       "A sets an anchor, comma and period go from one to the next, B held "
                       "shows it as shot")
                 : QString();
  }
}

std::optional<EmptyNote> LevelStage::empty() const {
  if (!session_.document.card().empty() || session_.frames.gathered()) return {};
  return no_frames(say_q("Their brightness is measured once they are gathered."),
                   {EmptyNote::Way::ToGather, say_q("Look at the frames"),
                    say_q("On Gather: read the card or the folder first.")});
}

}  // namespace askcount::app

#include "moc_level_stage.cpp"
