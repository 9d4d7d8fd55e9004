// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/ask_stage.h"
#include "advice/by_stage.h"

#include <fmt/format.h>

#include <cmath>
#include <QGridLayout>
#include <QTimer>
#include <QVBoxLayout>

#include "advice/plan_advice.h"
#include "app/session/languages.h"
#include "app/stages/ask/budget_bars.h"
#include "app/stages/ask/expose_pane.h"
#include "app/stages/ask/interval_ruler.h"
#include "app/stages/ask/shot_pane.h"
#include "app/stages/ask/ways_pane.h"
#include "app/stages/slot_wiring.h"
#include "app/stages/where_slots.h"
#include "app/style/text.h"
#include "app/widgets/add_words.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "book/kit.h"
#include "forecast/lasts.h"
#include "plan/nudge.h"
#include "plan/said_dials.h"
#include "plan/why.h"

namespace askcount::app {

using plan::Slot;

namespace {

constexpr int kWholeTab = 1, kMeasureTab = 2, kShotTab = 4, kWaysTab = 5;

}  // namespace

AskStage::AskStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 14, 26, 12);
  rows->setSpacing(4);
  sentence_ = new Sentence(this);
  sentence_->add(say_q("I want"));
  add_slot(Slot::Clip);
  sentence_->add(say_q("of film at"));
  add_slot(Slot::Fps);
  sentence_->add(say_q("of|a subject"));
  subject_ = sentence_->add_slot(say_q("subject"));
  subject_->take_words();
  connect(subject_, &SlotField::committed, this, [this](const QString& text) { say_subject(text); });
  sentence_->add(say_q("at|a place"));
  place_ = sentence_->add_slot(say_q("place"));
  place_->take_words();
  wire_place(session, sentence_, place_);
  connect(place_, &SlotField::committed, this, [this] {
    if (session_.document.take().place.known()) ask_next(place_);
  });
  sentence_->add(say_q("from|a moment on"));
  start_ = sentence_->add_slot(say_q("first shot"));
  wire_start(session, sentence_, start_);
  connect(start_, &SlotField::committed, this, [this] {
    if (session_.document.take().knows_start()) ask_next(start_);
  });
  sentence_->add(say_q("on"));
  add_crossings();
  sentence_->add(say_q(", with trails"));
  add_slot(Slot::Trail);
  sentence_->add(say_q("long."));
  sentence_->add_break();
  sentence_->add(say_q("Shoot"));
  add_slot(Slot::Frames);
  sentence_->add(say_q(", one every"));
  add_slot(Slot::Interval);
  sentence_->add(say_q(", shutter"));
  add_slot(Slot::Shutter);
  sentence_->add(say_q(", gap"));
  add_slot(Slot::Gap);
  sentence_->add(say_q(", for"));
  add_slot(Slot::Field);
  sentence_->add(":");
  add_slot(Slot::SpeedUp);
  sentence_->add(say_q("faster"));
  step_ = sentence_->begin_phrase(say_q("step"));
  sentence_->add(",");
  add_slot(Slot::Step);
  sentence_->add(say_q("of the width a step"));
  sentence_->end_phrase([this] { release(Slot::Step); });
  sentence_->add(".");
  add_meter();
  sentence_->keep_why_line(
      say_q("Click a number and type, or step it with the arrows or the wheel. Ctrl+P pins it."));
  rows->addWidget(sentence_);
  rows->addWidget(new AddWords(*sentence_, this));
  auto* interval = make_heading(say_q("Interval, start to start"), this);
  auto* ruler = new IntervalRuler(session, this);
  rows->addWidget(interval);
  rows->addWidget(ruler);
  auto* pages = new Pages(this);
  tabs_ = new WordTabs("ask pages", this);
  measure_ = new MeasurePane(session, pages);
  tabs_->add(say_q("See it"), make_see_page(), pages);
  whole_ = new WholeFilm(session, pages);
  tabs_->add(say_q("The whole film"), whole_, pages);
  tabs_->add(say_q("Measure the motion"), measure_, pages);
  tabs_->add(say_q("Expose and focus"), new ExposePane(session, pages), pages);
  tabs_->add(say_q("One shot"), new ShotPane(session, pages), pages);
  tabs_->add(say_q("Alternatives"), new WaysPane(session, pages), pages);
  rows->addWidget(tabs_);
  // What is below gives way before the sentence does.
  pages->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Ignored);
  rows->addWidget(pages, 1);
  // The film is shown in its full size, and pages with much to read are read whole: the ruler makes room.
  connect(pages, &QStackedWidget::currentChanged, this, [interval, ruler](int page) {
    const bool room = page != kWholeTab && page != kShotTab && page != kWaysTab;
    interval->setVisible(room);
    ruler->setVisible(room);
  });
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  say_keys();
  refresh();
}

QWidget* AskStage::make_see_page() {
  auto* page = new QWidget(this);
  auto* below = new QGridLayout(page);
  below->setContentsMargins(0, 6, 0, 0);
  below->setHorizontalSpacing(22);
  below->setColumnStretch(0, 4);
  below->setColumnStretch(1, 3);
  below->setRowStretch(1, 1);
  motion_heading_ = make_heading({}, page);
  below->addWidget(motion_heading_, 0, 0);
  motion_ = new MotionView(session_, page);
  below->addWidget(motion_, 1, 0);
  below->addWidget(make_heading(say_q("Will it last?"), page), 0, 1);
  below->addWidget(new BudgetBars(session_, page), 1, 1);
  return page;
}

void AskStage::resizeEvent(QResizeEvent* event) {
  // On a small screen, or in large type, the sentence is set smaller, so that all of it is seen.
  constexpr int kSmall = 590;
  constexpr double kMost = 0.45, kSmallest = 9.5;  // of the height; points
  double points = height() < kSmall ? 12.5 : Sentence::kPoints;
  sentence_->set_points(points);
  while (points > kSmallest && sentence_->heightForWidth(width() - 52) > kMost * height())
    sentence_->set_points(points -= 0.5);
  Stage::resizeEvent(event);
}

void AskStage::play() {
  if (tabs_->chosen() == kWholeTab) return whole_->toggle();
  tabs_->choose(0);
  motion_->toggle();
}

void AskStage::say_keys() {
  keys_.add(Qt::Key_T, say_q("Stopwatch: the subject enters or leaves the frame"), [this] {
    tabs_->choose(kMeasureTab);
    measure_->tap();
  });
}

void AskStage::add_crossings() {
  field_crossing_ = sentence_->begin_phrase(say_q("how fast it moves"));
  sentence_->add(say_q(", that cross the frame in"));
  add_slot(Slot::FieldCrossing);
  sentence_->end_phrase([this] { release(Slot::FieldCrossing); });
  screen_crossing_ = sentence_->begin_phrase(say_q("its pace in the film"));
  sentence_->add(say_q("and should cross the screen in"));
  add_slot(Slot::ScreenCrossing);
  sentence_->end_phrase([this] { release(Slot::ScreenCrossing); });
}

void AskStage::release(Slot slot) {
  session_.document.edit([slot](take::Take& t) { t.release(slot); });
}

void AskStage::say_subject(const QString& words) {
  session_.document.edit([&](take::Take& t) { t.subject = words.toStdString(); });
  ask_next(subject_);
}

void AskStage::ask_next(const SlotField* said) {
  const take::Take& t = session_.document.take();
  const std::pair<SlotField*, bool> order[] = {
      {subject_, !t.subject.empty()},
      {slots_[Slot::Clip], t.wished(Slot::Clip) || t.wished(Slot::Frames) || t.wished(Slot::Field)},
      {slots_[Slot::Interval],
       session_.document.solution().relation(Slot::Interval) != plan::Relation::Proposed},
      {place_, t.place.known()},
      {start_, t.knows_start()},
      {meter_, t.metered.has_value()}};
  bool passed = false;
  for (const auto& [slot, filled] : order) {
    if (slot == said) passed = true;
    if (!passed || filled || slot->isHidden()) continue;
    // Once the slot that was typed into has let go of the focus.
    QTimer::singleShot(0, slot, [slot = slot] { slot->setFocus(Qt::OtherFocusReason); });
    return;
  }
}

void AskStage::add_meter() {
  metering_ = sentence_->begin_phrase(say_q("meter"));
  sentence_->add_break();
  sentence_->add(say_q("The meter says"));
  meter_ = sentence_->add_slot(say_q("metered exposure"));
  sentence_->add(say_q(": put on"));
  filters_ = sentence_->add_slot(say_q("filters to put on"));
  sentence_->add(say_q("and set"));
  dials_ = sentence_->add_slot(say_q("aperture and ISO to set"));
  sentence_->add(".");
  sentence_->end_phrase([this] {
    session_.document.edit([](take::Take& t) {
      t.metered.reset();
      t.light.source.anchor.reset();
      t.light.f_number.reset();
      t.light.iso.reset();
    });
  });
  filters_->setEnabled(false);
  connect(dials_, &SlotField::committed, this, [this](const QString& text) {
    try {
      const plan::SaidDials said = text.isEmpty() ? plan::SaidDials{} : plan::parse_dials(text.toStdString());
      session_.document.edit([&said](take::Take& t) {
        t.light.f_number = said.f_number;
        t.light.iso = said.iso;
        t.light.clicks.clear();
      });
      sentence_->complain({});
    } catch (const Error& e) {
      sentence_->complain(QString::fromUtf8(e.what()));
    }
  });
  connect(meter_, &SlotField::committed, this, [this](const QString& text) {
    try {
      std::optional<plan::Metered> metered;
      if (QString plain = text; !plain.isEmpty()) metered = plan::parse_metered(plain.toStdString());
      session_.document.edit([&](take::Take& t) {
        if (metered)
          take::meter(t, *metered);
        else
          t.metered.reset(), t.light.source.anchor.reset();
      });
      sentence_->complain({});
    } catch (const Error& e) {
      sentence_->complain(QString::fromUtf8(e.what()));
    }
  });
  connect(meter_, &SlotField::nudged, this, [this](int steps) {
    if (!session_.document.take().metered) return;
    session_.document.edit([steps](take::Take& t) {
      plan::Metered m = *t.metered;
      m.shutter_s = plan::nudged(Slot::Shutter, m.shutter_s, steps);
      take::meter(t, m);
    });
  });
}

void AskStage::show_exposure() {
  using Kind = SlotField::Kind;
  const take::Take& t = session_.document.take();
  meter_->set(t.metered ? QString::fromStdString(plan::metered_words(*t.metered)) : say_q("nothing yet"),
              Kind::Plain, t.metered ? QString() : " ");
  const auto& exposure = session_.document.exposure();
  const bool known = exposure && exposure->dials_known;
  sentence_->set_said(metering_, t.metered.has_value() || t.light.f_number || t.light.iso || known);
  if (!known) {
    filters_->set(say_q("what it asks for"), Kind::Plain);
    dials_->set(say_q("what it says"), Kind::Plain, " ");
    return;
  }
  const QString stack = QString::fromStdString(forecast::filters_words(*exposure));
  filters_->set(stack.isEmpty() ? say_q("no filter") : stack, Kind::Answer);
  const bool said = t.light.f_number || t.light.iso;
  dials_->set(QString::fromStdString(forecast::dials_words(*exposure)),
              exposure->match.missing_stops != 0 ? Kind::Open
              : said                             ? Kind::Field
                                                 : Kind::Answer,
              to_q(ramp::dial_words(ramp::Dial::Aperture, exposure->first) + ", " +
                   ramp::dial_words(ramp::Dial::Iso, exposure->first)));
  dials_->set_why(exposure->estimated ? say_q("Estimated from the light at that place and time, which may be "
                                              "off by two stops: meter first.")
                                      : say_q("From your meter reading."));
}

void AskStage::show_shutter() {
  // One that follows the light is said from where it begins to where it ends; one that nobody asked for as
  // the light allows it.
  const auto& exposure = session_.document.exposure();
  if (!exposure || (!exposure->follows && !exposure->offered)) return;
  if (exposure->offered) {
    slots_[Slot::Shutter]->set(to_q(forecast::shutter_words(*exposure)), SlotField::Kind::Answer);
    slots_[Slot::Trail]->set(to_q(plan::format_slot(Slot::Trail, exposure->longest_trail)),
                             SlotField::Kind::Answer);
    slots_[Slot::Gap]->set(to_q(forecast::gap_words(*exposure)), SlotField::Kind::Answer);
    return;
  }
  const auto said = [&](Slot slot) {
    const auto v = session_.document.solution()[slot];
    return v ? QString::fromStdString(plan::format_slot(slot, *v)) : QString();
  };
  const auto kind = [&](Slot slot, SlotField::Kind wished) {
    const plan::Relation by = session_.document.solution().relation(slot);
    return by == plan::Relation::Wished    ? wished
           : by == plan::Relation::Assumed ? SlotField::Kind::Proposed
                                           : SlotField::Kind::Answer;
  };
  slots_[Slot::Shutter]->set(QString::fromStdString(forecast::shutter_words(*exposure)),
                             kind(Slot::Shutter, SlotField::Kind::Field), said(Slot::Shutter));
  slots_[Slot::Trail]->set(say_q("up to ") + said(Slot::Trail), kind(Slot::Trail, SlotField::Kind::Plain),
                           said(Slot::Trail));
  slots_[Slot::Gap]->set(say_q("at least ") + said(Slot::Gap), kind(Slot::Gap, SlotField::Kind::Field),
                         said(Slot::Gap));
}

void AskStage::show_run() {
  // What only follows is said as the timer will really run: all that is done goes by that.
  const auto& sums = session_.document.sums();
  if (!sums || session_.document.take().wished(Slot::Interval)) return;
  const plan::Sums run = forecast::sums_as_run(session_.document.take());
  if (std::abs(run.interval_s - sums->interval_s) < 1e-6) return;
  const auto show = [this](Slot slot, double value) {
    if (session_.document.solution().relation(slot) == plan::Relation::Wished) return;
    slots_[slot]->set(to_q(plan::format_slot(slot, value)), SlotField::Kind::Answer);
  };
  show(Slot::Interval, run.interval_s);
  show(Slot::Gap, run.gap_s);
  show(Slot::Field, run.field_s);
  show(Slot::SpeedUp, run.speed_up);
  show(Slot::Trail, run.trail);
  if (run.step) show(Slot::Step, *run.step);
  if (run.screen_crossing_s) show(Slot::ScreenCrossing, *run.screen_crossing_s);
}

void AskStage::show_days() {
  // Where only some hours of a day are shot, the take is longer than its shots in a row.
  const take::Take& t = session_.document.take();
  if (!session_.document.sums() || t.work.always()) return;
  const auto days = forecast::days_of(t, *session_.document.sums());
  if (!days) return;
  SlotField* field = slots_[Slot::Field];
  field->set(to_q(counted(static_cast<long long>(std::ceil(days->calendar_days)), "{} day", "{} days")),
             session_.document.solution().relation(Slot::Field) == plan::Relation::Wished
                 ? SlotField::Kind::Field
                 : SlotField::Kind::Answer,
             to_q(plan::format_slot(Slot::Field, session_.document.sums()->field_s)));
  field->set_why(to_q(say("By the calendar: shot {}, {} of shooting in all.", plan::work_words(t.work),
                          format_length(std::round(static_cast<double>(session_.document.schedule().shots()) *
                                                   session_.document.schedule().interval_s())))));
}

std::optional<EmptyNote> AskStage::empty() const {
  const take::Take& take = session_.document.take();
  if (take.says_plan()) return {};
  if (!take.card.empty())
    return EmptyNote{say_q("These frames came without a plan"),
                     "",
                     {{EmptyNote::Way::ToGather, say_q("Look at the frames"),
                       say_q("Put them in order, level them, make the film.")},
                      {EmptyNote::Way::AskForClip, say_q("Plan another like them"),
                       say_q("Say what moves; the count, the timer and the light follow.")}}};
  return EmptyNote{
      say_q("What moves?"),
      say_q("Type it and press Return: count, interval and shutter follow, and wait for your own numbers."),
      {{EmptyNote::Way::AskForClip, say_q("Ask for a clip"),
        say_q("Say how long it should run and what moves; the count, the timer and the light follow.")},
       {EmptyNote::Way::OpenFolder, say_q("Open a card or a folder of frames"),
        say_q("You have the frames already: put them in order, level them, make the film. They are not "
              "changed.")},
       {EmptyNote::Way::TryDemo, say_q("Try the demo"),
        say_q("Boats on the flood tide at Tern Quay, a harbour made up for it, from day into night.")}},
      say_q("stars, fast clouds, a building site…")};
}

void AskStage::add_slot(Slot slot) {
  SlotField* field = sentence_->add_slot(to_q(plan::slot_name(slot)));
  slots_[slot] = field;
  connect(field, &SlotField::committed, this, [this, slot](const QString& text) {
    try {
      const bool lasts = slot == Slot::Frames && (meant(text, "as long as it lasts") || meant(text, "max"));
      if (text.isEmpty()) {
        session_.document.edit([&](take::Take& t) { t.release(slot); });
      } else if (lasts) {
        const take::Take whole = forecast::as_long_as_it_lasts(session_.document.take());
        session_.document.edit([&](take::Take& t) { t = whole; });
        emit session_.told(to_q(forecast::lengths_words(whole)));
      } else {
        const double value = plan::parse_slot(slot, text.toStdString());
        const bool answers = session_.document.solution().relation(slot) == plan::Relation::Proposed;
        session_.document.edit([&](take::Take& t) { t.wish(slot, value); });
        if (answers) ask_next(slots_[slot]);
      }
      sentence_->complain({});
    } catch (const Error& e) {
      sentence_->complain(QString::fromUtf8(e.what()));
    }
  });
  connect(field, &SlotField::pin_pressed, this, [this, slot] {
    session_.document.edit([&](take::Take& t) {
      if (const plan::Wish* wish = t.wished(slot)) return t.pin(slot, !wish->pinned);
      if (const auto now = t.solution()[slot]) {
        t.wish(slot, *now);
        t.pin(slot, true);
      }
    });
  });
  connect(field, &SlotField::nudged, this, [this, slot](int steps) {
    const auto now = session_.document.solution()[slot];
    if (!now) return;
    sentence_->complain({});
    const double to = plan::nudged(slot, *now, steps);
    session_.document.edit([&](take::Take& t) { t.wish(slot, to); });
  });
}

void AskStage::refresh() {
  const plan::Solution& s = session_.document.solution();
  for (const auto& [slot, field] : slots_) {
    const auto value = s[slot];
    const bool wished = s.relation(slot) == plan::Relation::Wished;
    SlotField::Kind kind = SlotField::Kind::Answer;
    const plan::Relation by = s.relation(slot);
    if (!value)
      kind = SlotField::Kind::Plain;
    else if (by == plan::Relation::Proposed || by == plan::Relation::Assumed)
      kind = SlotField::Kind::Proposed;
    else if (wished)
      kind = slot == Slot::Clip || slot == Slot::Fps || slot == Slot::ScreenCrossing || slot == Slot::Frames
                 ? SlotField::Kind::Film
             : slot == Slot::Trail ? SlotField::Kind::Plain
                                   : SlotField::Kind::Field;
    const plan::Wish* wish = session_.document.take().wished(slot);
    field->set_pinned(wish && wish->pinned);
    field->set_why(QString::fromStdString(plan::why_words(slot, s)) +
                   say_q("\nType, or step with the arrows; Ctrl+P pins it."));
    field->set(value ? QString::fromStdString(plan::format_slot(slot, *value)) : say_q("a while|not said"),
               kind, value ? QString() : QString(" "));
  }
  sentence_->set_said(field_crossing_, s[Slot::FieldCrossing].has_value());
  sentence_->set_said(screen_crossing_, s[Slot::ScreenCrossing].has_value());
  sentence_->set_said(step_, s[Slot::Step].has_value());
  const take::Take& take = session_.document.take();
  subject_->set(take.subject.empty() ? say_q("something") : QString::fromStdString(take.subject),
                SlotField::Kind::Plain, take.subject.empty() ? QString(" ") : QString());
  show_place(take, place_);
  show_start(take, start_);
  show_run();
  show_shutter();
  show_days();
  const auto& sums = session_.document.sums();
  show_exposure();
  sentence_->reflow();
  if (sums && sums->step) {
    const double px = *sums->step * session_.document.take().film.size.width;
    QString judgement = say_q(plan::motion_word(*sums->screen_crossing_s, *sums->step, sums->trail));
    judgement[0] = judgement[0].toUpper();
    motion_heading_->setText(
        say_q("%4: %1 px of %2 a frame, trail %3 px, across in %5")
            .arg(QString::fromStdString(format_number(px, px < 10 ? 1 : 0)))
            .arg(session_.document.take().film.size.width)
            .arg(QString::fromStdString(format_number(px * sums->trail, px * sums->trail < 10 ? 1 : 0)),
                 judgement, QString::fromStdString(format_length(*sums->screen_crossing_s, 1))));
    motion_heading_->setToolTip(say_q(
        "Calm from 7 s for the frame's width at 24 fps, natural from half of that, broken up where a step "
        "passes a twentieth of the "
        "width and no long trail bridges it. Source: cinematographers' panning rule."));
  } else {
    motion_heading_->setText(say_q("How it will move"));
  }
}

Findings AskStage::findings() const {
  const take::Take& take = session_.document.take();
  advice::Known known = known_plan();
  known.kit = book::judge(session_.book.facts(take.kit), take.kit, take.light.turning_s);
  return advice::findings_on(advice::Stage::Ask, take, known);
}

QString AskStage::foot() const {
  if (!session_.document.sums() || !session_.document.take().knows_start()) return {};
  const take::Take& t = session_.document.take();
  if (const auto days = t.work.always() ? std::nullopt : forecast::days_of(t, *session_.document.sums()))
    return say_q("First frame %1; shot %2, until %3")
        .arg(to_q(format_clock(session_.document.schedule().at(0), t.place.zone, true)),
             to_q(plan::work_words(t.work)),
             shown_day(
                 day_of(later(t.start, session_.document.forecast().days.back().until_s), t.place.zone)));
  return say_q("First frame %1, last frame ends %2")
      .arg(QString::fromStdString(format_clock(t.start, t.place.zone, true)),
           QString::fromStdString(
               format_clock(later(t.start, session_.document.program().field_s()), t.place.zone, true)));
}

}  // namespace askcount::app

#include "moc_ask_stage.cpp"
