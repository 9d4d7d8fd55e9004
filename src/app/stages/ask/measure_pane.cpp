// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/measure_pane.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "app/widgets/ticks.h"
#include "base/error.h"
#include "base/units.h"

namespace askcount::app {

using plan::MotionWay;

MeasurePane::MeasurePane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* across = new QHBoxLayout(this);
  across->setContentsMargins(0, 8, 0, 0);
  across->setSpacing(20);
  auto* left = new QVBoxLayout;
  left->setSpacing(6);
  make_sentence();
  left->addWidget(sentence_);
  make_buttons(left);
  left->addStretch();
  across->addLayout(left, 5);
  view_ = new PicturesView(session, this);
  across->addWidget(view_, 4);
  wire_speed();
  connect(&running_, &QTimer::timeout, this, &MeasurePane::refresh);
  connect(&session.tests, &TestPictures::found, this, [this] {
    const double crossing = session_.tests.motion()->crossing_s;
    session_.document.edit([&](take::Take& t) { t.measured({MotionWay::Pictures, crossing, 0, 1}); });
  });
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.tests, &TestPictures::changed);
  refresh();
}

void MeasurePane::make_sentence() {
  sentence_ = new Sentence(this, 12);
  const auto answer = [this](const QString& name) {
    SlotField* slot = sentence_->add_slot(name);
    slot->setEnabled(false);
    return slot;
  };
  sentence_->add(say_q("By stopwatch it crosses the frame in"));
  watch_ = answer(say_q("crossing by stopwatch"));
  sentence_->add(".");
  sentence_->add_break();
  sentence_->add(say_q("By two pictures"));
  pictures_ = answer(say_q("crossing by pictures"));
  sentence_->add(".");
  sentence_->add_break();
  sentence_->add(say_q("At|a speed"));
  speed_ = sentence_->add_slot(say_q("speed of the subject"));
  sentence_->add(say_q("and"));
  distance_ = sentence_->add_slot(say_q("distance of the subject"));
  sentence_->add(say_q("away it crosses in"));
  crosses_ = answer(say_q("crossing by speed"));
  sentence_->add(".");
}

void MeasurePane::make_buttons(QVBoxLayout* left) {
  const auto row = [&](std::initializer_list<QWidget*> buttons) {
    auto* line = new QHBoxLayout;
    line->setSpacing(8);
    for (QWidget* b : buttons) line->addWidget(b);
    line->addStretch();
    left->addLayout(line);
  };
  tap_ = new PressButton(say_q("It enters (T)"), false, this);
  tap_->setObjectName("tap");
  again_ = new PressButton(say_q("Start again"), false, this);
  use_watch_ = new PressButton(say_q("Use the stopwatch"), false, this);
  use_pictures_ = new PressButton(say_q("Use the pictures"), false, this);
  use_speed_ = new PressButton(say_q("Use the speed"), false, this);
  choose_ = new PressButton(say_q("Choose two pictures…"), false, this);
  row({tap_, again_, use_watch_});
  row({choose_, use_pictures_, use_speed_});
  connect(tap_, &QPushButton::clicked, this, &MeasurePane::tap);
  connect(again_, &QPushButton::clicked, this, [this] {
    taps_.clear();
    entered_ms_.reset();
    running_.stop();
    refresh();
  });
  connect(use_watch_, &QPushButton::clicked, this, [this] { use(MotionWay::Stopwatch); });
  connect(use_pictures_, &QPushButton::clicked, this, [this] { use(MotionWay::Pictures); });
  connect(use_speed_, &QPushButton::clicked, this, [this] { use(MotionWay::Speed); });
  connect(choose_, &QPushButton::clicked, this, &MeasurePane::choose_pictures);
}

void MeasurePane::wire_speed() {
  const auto take_number = [this](double& into, const QString& unit) {
    return [this, &into, unit](const QString& text) {
      try {
        into = parse_positive(QString(text).remove(unit).trimmed().toStdString(), say("The value"));
        sentence_->complain({});
        use(MotionWay::Speed);
      } catch (const Error& e) {
        sentence_->complain(QString::fromUtf8(e.what()));
      }
      refresh();
    };
  };
  connect(speed_, &SlotField::committed, this, take_number(metres_per_s_, "m/s"));
  connect(distance_, &SlotField::committed, this, take_number(metres_, "m"));
  connect(speed_, &SlotField::nudged, this,
          [this](int n) { metres_per_s_ = std::max(0.1, metres_per_s_ * std::pow(1.1, n)), refresh(); });
  connect(distance_, &SlotField::nudged, this,
          [this](int n) { metres_ = std::max(0.1, metres_ * std::pow(1.1, n)), refresh(); });
}

void MeasurePane::tap() {
  if (!entered_ms_) {
    entered_ms_ = ticks_ms();
    running_.start(100);
  } else {
    taps_.push_back(static_cast<double>(ticks_ms() - *entered_ms_) / 1000);
    entered_ms_.reset();
    running_.stop();
    const plan::Measure m = plan::stopwatch(taps_);
    if (m.crossing_s > 0) session_.document.edit([&](take::Take& t) { t.measured(m); });
  }
  refresh();
}

void MeasurePane::use(MotionWay way) {
  const plan::Measure speed{
      MotionWay::Speed,
      1 / motion::frame_widths_per_s(metres_per_s_, metres_, session_.document.take().lens().focal_mm,
                                     session_.document.take().body().sensor_width_mm),
      0, 1};
  session_.document.edit([&](take::Take& t) {
    if (way == MotionWay::Speed) t.measured(speed);
    for (const plan::Measure& m : t.measures)
      if (m.way == way) return t.wish(plan::Slot::FieldCrossing, m.crossing_s);
  });
}

void MeasurePane::choose_pictures() {
  const QStringList files =
      QFileDialog::getOpenFileNames(this, say_q("Two pictures of the subject, some seconds apart"), {},
                                    say_q("Pictures (*.jpg *.jpeg *.JPG *.JPEG)"));
  if (files.size() == 2)
    session_.choose_tests(files[0].toStdString(), files[1].toStdString());
  else if (!files.isEmpty())
    sentence_->complain(say_q("Choose exactly two pictures."));
}

void MeasurePane::refresh() {
  using Kind = SlotField::Kind;
  const plan::Measure* by[3] = {};
  for (const plan::Measure& m : session_.document.take().measures) by[static_cast<int>(m.way)] = &m;
  const auto crossing = [](const plan::Measure& m) {
    return to_q(format_length(m.crossing_s, m.crossing_s < 10 ? 2 : 1));
  };
  if (entered_ms_)
    watch_->set(to_q(format_length(std::max(0.1, static_cast<double>(ticks_ms() - *entered_ms_) / 1000), 1)) +
                    say_q(" so far"),
                Kind::Field);
  else if (const plan::Measure* m = by[0])
    watch_->set(crossing(*m) + (m->taps > 1 ? say_q(" ± %1 (%2 times)")
                                                  .arg(to_q(format_length(std::max(0.01, m->spread_s), 2)))
                                                  .arg(m->taps)
                                            : say_q(" (once)")),
                Kind::Answer);
  else
    watch_->set(say_q("not yet"), Kind::Open);
  tap_->setText(entered_ms_ ? say_q("It leaves (T)") : say_q("It enters (T)"));
  again_->setEnabled(!taps_.empty() || entered_ms_.has_value());
  use_watch_->setEnabled(by[0]);
  const auto& motion = session_.tests.motion();
  if (motion)
    pictures_->set(say_q("%1 px/s, %2 of the width a second, %3: %4")
                       .arg(to_q(format_number(motion->px_per_s, motion->px_per_s < 10 ? 1 : 0)),
                            to_q(format_number(motion->frame_widths_per_s * 100, 2)) + " %",
                            to_q(format_number(motion->direction_deg, 0)) + "°",
                            to_q(format_length(motion->crossing_s, 1))),
                   Kind::Answer);
  else
    pictures_->set(session_.tests.busy() ? say_q("being measured") : say_q("not yet"), Kind::Open);
  use_pictures_->setEnabled(motion.has_value());
  speed_->set(to_q(format_number(metres_per_s_, 2)) + " m/s", Kind::Plain);
  distance_->set(to_q(format_number(metres_, 1)) + " m", Kind::Plain);
  const double widths =
      motion::frame_widths_per_s(metres_per_s_, metres_, session_.document.take().lens().focal_mm,
                                 session_.document.take().body().sensor_width_mm);
  crosses_->set(to_q(format_length(1 / widths, 1)), Kind::Answer);
  sentence_->reflow();
}

}  // namespace askcount::app

#include "moc_measure_pane.cpp"
