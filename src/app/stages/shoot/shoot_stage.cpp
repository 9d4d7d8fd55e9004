// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/shoot_stage.h"
#include "advice/by_stage.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "advice/shoot_advice.h"
#include "app/stages/shoot/newest_frame.h"
#include "app/stages/shoot/next_card.h"
#include "app/stages/shoot/run_controls.h"
#include "app/stages/shoot/shoot_head.h"
#include "app/stages/shoot/shoot_log.h"
#include "app/stages/slot_wiring.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr int kTick_ms = 100;
constexpr int kFlash_ms = 700;

}  // namespace

ShootStage::ShootStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(28, 12, 28, 10);
  rows->setSpacing(6);
  auto* pages = new Pages(this);
  tabs_ = new WordTabs("shoot pages", this);
  tabs_->add(say_q("Beside the tripod"), make_page(), pages);
  rehearse_ = new RehearsePane(session, pages);
  tabs_->add(say_q("Rehearse the dusk"), rehearse_, pages);
  rows->addWidget(tabs_);
  rows->addWidget(pages, 1);
  connect(&session.run, &Run::fault, this, [this](const QString&) { alarm(); });
  connect(next_, &NextCard::due, this, &ShootStage::alarm);
  say_keys();
  tick_.setInterval(kTick_ms);
  connect(&tick_, &QTimer::timeout, this, [this] {
    head_->update();
    next_->refresh();
    controls_->refresh();
    keep_ticking();
  });
  refresh_when_seen(this, [this] { keep_ticking(); }).on(session.run, &Run::changed);
}

QWidget* ShootStage::make_page() {
  auto* page = new QWidget(this);
  auto* rows = new QVBoxLayout(page);
  rows->setContentsMargins(0, 6, 0, 0);
  rows->setSpacing(7);
  head_ = new ShootHead(session_, page);
  next_ = new NextCard(session_, page);
  controls_ = new RunControls(session_, page);
  rows->addWidget(head_);
  rows->addWidget(next_);
  rows->addWidget(controls_);
  auto* below = new QHBoxLayout;
  below->setSpacing(20);
  log_ = new ShootLog(session_, page);
  below->addWidget(log_, 5);
  below->addWidget(new NewestFrame(session_, page), 4);
  rows->addLayout(below, 1);
  return page;
}

void ShootStage::keep_ticking() {
  const journal::ShootState& state = session_.run.state();
  const bool wanted = isVisible() && state.active && (!state.standin || state.scale > 0);
  if (wanted && !tick_.isActive()) tick_.start();
  if (!wanted) tick_.stop();
}

void ShootStage::alarm() {
  head_->flash(true);
  QTimer::singleShot(kFlash_ms, head_, [this] { head_->flash(false); });
  if (heard_) QApplication::beep();
}

void ShootStage::say_keys() {
  keys_.add(Qt::Key_D, say_q("The change is done"), [this] { next_->change(false); });
  keys_.add(Qt::Key_K, say_q("Skip the change"), [this] { next_->change(true); });
  const auto turn = [this](Qt::Key key, ramp::Dial dial, const QString& brighter, const QString& darker) {
    keys_.add(key, brighter, [this, dial] { next_->turn(dial, true); });
    keys_.add(
        key, darker, [this, dial] { next_->turn(dial, false); }, Qt::ShiftModifier);
  };
  turn(Qt::Key_S, ramp::Dial::Shutter, say_q("Shutter one click brighter"),
       say_q("Shutter one click darker"));
  turn(Qt::Key_F, ramp::Dial::Aperture, say_q("Aperture one click brighter"),
       say_q("Aperture one click darker"));
  turn(Qt::Key_I, ramp::Dial::Iso, say_q("ISO one click brighter"), say_q("ISO one click darker"));
  keys_.add(Qt::Key_M, say_q("Say what the meter reads"), [this] { controls_->meter(); });
  keys_.add(Qt::Key_N, say_q("Write a note"), [this] { log_->write_note(); });
  keys_.add(Qt::Key_P, say_q("Pause, or go on"), [this] { controls_->pause_or_go_on(); });
  keys_.add(Qt::Key_A, say_q("Alarms heard, or only seen"), [this] {
    heard_ = !heard_;
    emit foot_changed();
  });
}

const Keys& ShootStage::keys() const {
  return tabs_->chosen() == 1 ? rehearse_->keys() : keys_;
}

bool ShootStage::key(QKeyEvent* event) {
  return (tabs_->chosen() != 1 || rehearse_->running()) && Stage::key(event);
}

Findings ShootStage::findings() const {
  advice::Known known = known_plan();  // asked for at every shot
  known.shoot = &session_.run.state();
  known.live = session_.run.live();
  known.read_back = session_.run.read_back();
  return advice::findings_on(advice::Stage::Shoot, session_.document.take(), known);
}

QString ShootStage::foot() const {
  const QString alarms =
      heard_ ? say_q("Alarms are seen and heard (A)") : say_q("Alarms are seen, not heard (A)");
  if (!session_.run.active()) return say_q("Nothing is running.  ") + alarms + ".";
  const journal::ShootState& s = session_.run.state();
  const QString what =
      !s.standin ? say_q("Beside a real camera, by the clock")
      : s.scale > 0
          ? say_q("Simulated camera, %1 times faster than real").arg(to_q(format_number(s.scale, 0)))
          : say_q("Simulated camera, as fast as it can");
  const QString keys =
      next_->by_hand() ? say_q(".  S, F, I: a click more light, with Shift less; M: the meter") : "";
  return what + keys + ".  " + alarms + say_q(".  Everything is in ") +
         to_q(session_.document.journal_file().filename().string()) + ".";
}

std::optional<EmptyNote> ShootStage::empty() const {
  if (session_.document.sums()) return {};
  return no_plan(say_q("There is no plan to shoot by yet: how many frames, how far apart, how long open."));
}

}  // namespace askcount::app

#include "moc_shoot_stage.cpp"
