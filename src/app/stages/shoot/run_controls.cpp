// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/run_controls.h"

#include <algorithm>
#include <QApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QRegularExpression>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "base/dials.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "forecast/trial.h"
#include "journal/hand.h"
#include "simulate/scene.h"

namespace askcount::app {
namespace {

constexpr double kSpeeds[] = {0, 1, 5, 20, 60};
QStringList speed_words() {
  return {say_q("as fast as it can"), say_q("in real time"), say_q("5 times faster"),
          say_q("20 times faster"), say_q("60 times faster")};
}
QStringList limit_words() {
  return {say_q("everything lasts"), say_q("the kit's battery and card end")};
}

}  // namespace

RunControls::RunControls(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(7);
  make_sentence();
  rows->addWidget(sentence_);
  auto* buttons = new QHBoxLayout;
  buttons->setSpacing(8);
  make_buttons(buttons);
  rows->addLayout(buttons);
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.frames, &Frames::changed)
      .on(session.run, &Run::changed)
      .on(session.job, &Job::started)
      .on(session.job, &Job::ended);
  refresh();
}

void RunControls::make_sentence() {
  sentence_ = new Sentence(this, 11);
  sentence_->add(say_q("The stand-in shoots"));
  scene_ = sentence_->add_slot(say_q("scene"));
  sentence_->add(",");
  speed_ = sentence_->add_slot(say_q("speed"));
  sentence_->add(";");
  limits_ = sentence_->add_slot(say_q("what lasts"));
  sentence_->add(say_q("and"));
  faults_ = sentence_->add_slot(say_q("faults"));
  sentence_->add(say_q(". A real camera is at frame"));
  at_ = sentence_->add_slot(say_q("frame of a real camera"));
  sentence_->add(say_q(". The dials stand at"));
  dials_ = sentence_->add_slot(say_q("dials as they stand"));
  sentence_->add(say_q(", the meter says"));
  meter_ = sentence_->add_slot(say_q("meter reading now"));
  sentence_->add(".");
  QStringList scenes;
  for (const std::string& s : simulate::scene_names()) scenes << to_q(s);
  scenes << say_q("as the subject");
  wire_choice(session_, scene_, scenes, [scenes](take::Take& t, int i) {
    t.stand_in.scene = i + 1 < scenes.size() ? scenes[i].toStdString() : "";
  });
  wire_words(speed_, speed_words(), [this](int i) {
    wish_.scale = kSpeeds[i];
    refresh();
  });
  wire_words(limits_, limit_words(), [this](int i) {
    wish_.limits = i == 1;
    refresh();
  });
  wire_faults();
  wire_frame();
  wire_dials();
}

void RunControls::wire_dials() {
  const auto exposure = [this](const QString& text, auto use) {
    try {
      QString plain = text;
      use(plan::parse_metered(plain.replace(say_q(" at "), ", ").toStdString()));
      sentence_->complain({});
    } catch (const Error& e) {
      sentence_->complain(QString::fromUtf8(e.what()));
    }
    refresh();
  };
  const auto frame = [this] { return std::max(0LL, session_.run.state().frame_at(now())); };
  connect(dials_, &SlotField::committed, this, [this, exposure, frame](const QString& text) {
    exposure(text, [&](const plan::Metered& m) {
      session_.run.set_dials(
          frame() + 1, {exact_shutter(m.shutter_s), exact_f_number(m.f_number), exact_iso(m.iso)}, false);
    });
  });
  connect(meter_, &SlotField::committed, this, [this, exposure, frame](const QString& text) {
    exposure(text, [&](const plan::Metered& m) {
      session_.run.metered(frame(), ramp::ev_of_exposure(m.shutter_s, m.f_number, m.iso));
    });
  });
}

void RunControls::meter() {
  if (!meter_->isEnabled()) return;
  meter_->setFocus();
  QKeyEvent press(QEvent::KeyPress, Qt::Key_Return, Qt::NoModifier);
  QApplication::sendEvent(meter_, &press);
}

void RunControls::wire_faults() {
  connect(faults_, &SlotField::committed, this, [this](const QString& text) {
    static const QRegularExpression between("[, ]+");
    try {
      std::vector<simulate::Fault> list;
      if (!meant(text, "nothing goes wrong") && !meant(text, "nothing"))
        for (const QString& part : text.split(between, Qt::SkipEmptyParts))
          list.push_back(simulate::parse_fault(part.toStdString()));
      wish_.faults = list;
      faults_text_ = list.empty() ? QString() : text;
      sentence_->complain({});
    } catch (const Error& e) {
      sentence_->complain(QString::fromUtf8(e.what()));
    }
    refresh();
  });
}

void RunControls::wire_frame() {
  connect(at_, &SlotField::committed, this, [this](const QString& text) {
    const auto last = static_cast<double>(session_.run.state().count);
    try {
      const double frame = parse_number(text.toStdString(), 1, last, say("the frame that is being shot now"));
      session_.run.put_at(std::llround(frame) - 1);
      sentence_->complain({});
    } catch (const Error& e) {
      sentence_->complain(QString::fromUtf8(e.what()));
    }
  });
  connect(at_, &SlotField::nudged, this,
          [this](int n) { session_.run.put_at(std::max(0LL, session_.run.state().frame_at(now()) + n)); });
}

void RunControls::make_buttons(QHBoxLayout* into) {
  const auto button = [&](PressButton*& b, const QString& name, bool main, auto press) {
    b = new PressButton(name, main, this);
    connect(b, &QPushButton::clicked, this, press);
    into->addWidget(b);
  };
  button(start_, say_q("Shoot with the stand-in"), true, [this] { session_.shoot(wish_); });
  button(accompany_, say_q("Beside a real camera"), false, [this] { session_.accompany(); });
  button(pause_, say_q("Pause (P)"), false, [this] { pause_or_go_on(); });
  button(stop_, say_q("Stop"), true, [this] { session_.run.stop(); });
  button(battery_, say_q("Fresh battery in"), false, [this] { session_.run.swap("battery"); });
  button(card_, say_q("Fresh card in"), false, [this] { session_.run.swap("card"); });
  button(power_, say_q("On external power"), false, [this] { session_.run.swap("power"); });
  into->addStretch();
}

void RunControls::pause_or_go_on() {
  session_.run.state().paused ? session_.run.resume() : session_.run.pause();
}

void RunControls::refresh() {
  using Kind = SlotField::Kind;
  const journal::ShootState& state = session_.run.state();
  const bool real = state.active && !state.standin, limited = state.active && state.standin && wish_.limits;
  scene_->set(to_q(forecast::scene_for(session_.document.take())), Kind::Plain);
  const auto at = std::find(std::begin(kSpeeds), std::end(kSpeeds), wish_.scale) - std::begin(kSpeeds);
  speed_->set(speed_words()[at], Kind::Plain);
  limits_->set(limit_words()[wish_.limits], Kind::Plain);
  faults_->set(faults_text_.isEmpty() ? say_q("nothing goes wrong") : faults_text_, Kind::Plain);
  at_->set(real ? to_q(format_count(std::max(0LL, state.frame_at(now())) + 1)) : "–",
           real ? Kind::Answer : Kind::Plain);
  at_->setEnabled(real);
  const bool by_clock = state.active && (!state.standin || state.scale > 0);
  const auto& exposure = session_.document.exposure();
  const ramp::Exposure stand = journal::dials_of(state, exposure ? exposure->first : ramp::Exposure{},
                                                 session_.document.take().light.rule);
  dials_->set(by_clock ? to_q(plan::metered_words({marked_shutter(stand.shutter_s),
                                                   marked_f_number(stand.f_number), marked_iso(stand.iso)}))
                       : "–",
              by_clock ? Kind::Answer : Kind::Plain);
  dials_->setEnabled(by_clock);
  meter_->set(by_clock && !state.readings.empty()
                  ? say_q("EV ") + to_q(format_number(state.readings.back().ev, 1))
              : by_clock ? say_q("nothing new")
                         : QString("–"),
              Kind::Plain, " ");
  meter_->setEnabled(by_clock);
  sentence_->reflow();
  start_->setVisible(!state.active);
  start_->setEnabled(session_.document.sums() && !session_.job.running());
  start_->setText(session_.frames.gathered() ? say_q("Shoot it again with the stand-in")
                                             : say_q("Shoot with the stand-in"));
  start_->updateGeometry();
  accompany_->setVisible(!state.active);
  accompany_->setEnabled(session_.document.sums().has_value());
  pause_->setVisible(state.active);
  pause_->setText(state.paused ? say_q("Go on (P)") : say_q("Pause (P)"));
  stop_->setVisible(state.active);
  battery_->setVisible(limited || real);
  card_->setVisible(limited || real);
  power_->setVisible(real);
}

}  // namespace askcount::app
