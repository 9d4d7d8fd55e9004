// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/set/set_stage.h"
#include "advice/by_stage.h"

#include <algorithm>
#include <cmath>
#include <QPainter>
#include <QVBoxLayout>

#include "advice/light_advice.h"
#include "advice/plan_advice.h"
#include "app/stages/set/checklist_pane.h"
#include "app/stages/set/practice_pane.h"
#include "app/stages/set/try_pane.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/word_tabs.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/shoot.h"

namespace askcount::app {

namespace {
QStringList start_words() {
  return {say_q("by its clock at"), say_q("after"), say_q("at once")};
}
}  // namespace

ProgramCard::ProgramCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setMinimumHeight(195);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setAccessibleName(say_q("The timer's program"));
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
}

void ProgramCard::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  p.fillRect(rect(), c.card);
  if (!session_.document.sums()) return;
  const auto lines = timer::program_lines(session_.document.program());
  const double row = height() / static_cast<double>(lines.size());
  const auto text = [](const std::string& s) { return QString::fromStdString(s); };
  // Columns as wide as the longest of their words, in whatever language and size.
  const QFont name_font = word_font(10), printed_font = word_font(13, QFont::Bold),
              value_font = figure_font(row < 46 ? 15 : 18, true);
  const auto widest = [&](const QFont& font, std::string timer::ProgramLine::*part) {
    double wide = 0;
    for (const timer::ProgramLine& l : lines)
      wide = std::max<double>(wide, QFontMetrics(font).horizontalAdvance(text(l.*part)));
    return wide;
  };
  const double name_left = 22,
               word_left = std::max(128.0, name_left + widest(name_font, &timer::ProgramLine::name) + 14),
               value_left = std::max(246.0, word_left + widest(printed_font, &timer::ProgramLine::word) + 24),
               why_left = std::max(470.0, value_left + widest(value_font, &timer::ProgramLine::value) + 24);
  for (size_t i = 0; i < lines.size(); ++i) {
    const QRectF band(0, static_cast<double>(i) * row, width(), row);
    if (i > 0) {
      p.setPen(c.line);
      p.drawLine(band.topLeft(), band.topRight());
    }
    p.setPen(c.muted);
    p.setFont(name_font);
    p.drawText(band.adjusted(name_left, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, text(lines[i].name));
    // What is printed on the person's own timer.
    p.setFont(printed_font);
    p.setPen(c.ink);
    p.drawText(band.adjusted(word_left, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, text(lines[i].word));
    p.setFont(value_font);
    const bool worked_out =
        lines[i].field == "interval" || lines[i].field == "gap" || lines[i].field == "count";
    const double w = p.fontMetrics().horizontalAdvance(text(lines[i].value));
    if (worked_out) {
      p.fillRect(QRectF(value_left - 8, band.center().y() - p.fontMetrics().height() / 2.0 - 2, w + 16,
                        p.fontMetrics().height() + 4),
                 c.answer);
      p.setPen(c.answer_ink);
    }
    p.drawText(QRectF(value_left, band.top(), why_left - value_left, row), Qt::AlignVCenter | Qt::AlignLeft,
               text(lines[i].value));
    p.setPen(c.ink);
    p.setFont(word_font(row < 46 ? 8.5 : 9.5));
    p.drawText(QRectF(why_left, band.top(), width() - why_left - 16, row),
               Qt::AlignVCenter | Qt::AlignLeft | Qt::TextWordWrap, tied(text(lines[i].why)));
  }
}

SetStage::SetStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 16, 26, 12);
  rows->setSpacing(6);
  sentence_ = new Sentence(this);
  sentence_->add(say_q("My timer is the"));
  timer_ = sentence_->add_slot(say_q("timer"));
  sentence_->add(say_q(". It counts the"));
  counts_ = sentence_->add_slot(say_q("what the timer counts"));
  counts_->setEnabled(false);
  sentence_->add(say_q(", starts"));
  start_by_ = sentence_->add_slot(say_q("how it starts"));
  delay_ = sentence_->add_slot(say_q("first delay"));
  sentence_->add(say_q(", and"));
  ends_ = sentence_->add_slot(say_q("how it ends"));
  sentence_->add(".");
  rows->addWidget(sentence_);
  auto* pages = new Pages(this);
  auto* tabs = new WordTabs("set pages", this);
  auto* program = new QWidget(pages);
  auto* down = new QVBoxLayout(program);
  down->setContentsMargins(0, 10, 0, 0);
  down->addWidget(make_heading(say_q("Set these, from the top, in the words printed on it"), program));
  down->addWidget(new ProgramCard(session, program), 1);
  down->addSpacing(6);
  down->addWidget(make_heading(say_q("What it will do"), program));
  shot_ = new ShotBar(program);
  down->addWidget(shot_);
  tabs->add(say_q("The program"), program, pages);
  tabs->add(say_q("Practise it"), new PracticePane(session, pages), pages);
  tabs->add(say_q("Checklist"), new ChecklistPane(session, pages), pages);
  try_ = new TryPane(session, pages);
  tabs->add(say_q("Try ten frames"), try_, pages);
  rows->addWidget(tabs);
  rows->addWidget(pages, 1);
  connect(try_, &TryPane::changed, this, &Stage::findings_changed);
  connect(timer_, &SlotField::committed, this, [this](const QString& name) {
    session_.document.edit([&](take::Take& t) {
      for (const plan::Timer& model : plan::timers_of(t.kit))
        if (model.name == name.toStdString()) t.timer = model.name;
    });
  });
  connect(timer_, &SlotField::nudged, this, [this](int steps) {
    session_.document.edit([&](take::Take& t) {
      const auto& timers = plan::timers_of(t.kit);
      const auto n = static_cast<long>(timers.size());
      long at = 0;
      for (long i = 0; i < n; ++i)
        if (timers[static_cast<size_t>(i)].name == t.timer) at = i;
      t.timer = timers[static_cast<size_t>(((at - steps) % n + n) % n)].name;
    });
  });
  wire_choice(session, start_by_, start_words(),
              [](take::Take& t, int i) { t.start_by = static_cast<timer::StartBy>(i); });
  wire(
      session, sentence_, delay_,
      [](take::Take& t, const std::string& text) { t.delay_s = parse_length(text, say("The delay")); },
      [](take::Take& t, int n) { t.delay_s = std::clamp(std::round(t.delay_s) + n, 0.0, 3600.0); });
  wire_choice(session, ends_, {say_q("stops by itself"), say_q("runs until I stop it")},
              [](take::Take& t, int i) { t.endless = i == 1; });
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void SetStage::refresh() {
  const take::Take& t = session_.document.take();
  const plan::Timer& model = t.timer_model();
  QStringList names;
  for (const plan::Timer& other : plan::timers_of(t.kit)) names << QString::fromStdString(other.name);
  timer_->set_choices(names);
  timer_->set(QString::fromStdString(model.name), SlotField::Kind::Plain);
  counts_->set(model.counts == plan::Counts::Interval ? say_q("interval") : say_q("gap"),
               SlotField::Kind::Answer);
  // A timer without a clock is told a delay.
  const bool clock = t.start_by == timer::StartBy::Clock && model.starts_by_clock && t.knows_start();
  const int by = clock ? 0 : t.start_by == timer::StartBy::Now ? 2 : 1;
  start_by_->set(start_words()[by], SlotField::Kind::Plain);
  delay_->set(clock ? QString::fromStdString(format_clock(t.start, t.place.zone))
                    : QString::fromStdString(format_length(t.delay_s)),
              SlotField::Kind::Field);
  delay_->setVisible(by < 2);
  delay_->setEnabled(by == 1);
  ends_->set(t.endless && model.endless ? say_q("runs until I stop it") : say_q("stops by itself"),
             SlotField::Kind::Plain);
  ends_->setEnabled(model.endless);
  sentence_->reflow();
  if (!session_.document.sums()) return;
  const timer::Program p = session_.document.program();
  shot_->set(p.open_s, t.body().writing_s + forecast::cycle_of(t, p.shutter.longest_s).dark_s, p.interval_s,
             p.shutter.follows);
}

Findings SetStage::findings() const {
  Findings list = advice::findings_on(advice::Stage::Set, session_.document.take(), known_plan());
  // What the test frames say stands first while they are looked at.
  if (const auto& tried = try_->tried(); tried && try_->isVisible())
    list.insert(list.begin(), tried->findings.begin(), tried->findings.end());
  return list;
}

QString SetStage::foot() const {
  const plan::Timer& m = session_.document.take().timer_model();
  return say_q("Steps of %1, %2")
      .arg(QString::fromStdString(format_length(m.smallest_step_s)),
           m.max_count > 0 ? say_q("at most %1 shots").arg(QString::fromStdString(format_count(m.max_count)))
                           : say_q("endless"));
}

std::optional<EmptyNote> SetStage::empty() const {
  if (session_.document.sums()) return {};
  return no_plan(say_q("A timer is told a plan: how many frames, how far apart, how long open."));
}

}  // namespace askcount::app

#include "moc_set_stage.cpp"
