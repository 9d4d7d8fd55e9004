// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/next_card.h"

#include <algorithm>
#include <cmath>
#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "forecast/light.h"

namespace askcount::app {
namespace {

constexpr double kSoon_s = 6;  // real seconds before a change at which it is called out

}  // namespace

NextCard::NextCard(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* across = new QHBoxLayout(this);
  across->setContentsMargins(18, 8, 18, 9);
  auto* text = new QVBoxLayout;
  text->setSpacing(1);
  next_ = new QLabel(this);
  next_->setObjectName("next change");
  next_->setFont(word_font(16, QFont::Bold));
  why_ = new QLabel(this);
  why_->setFont(word_font(9.5));
  why_->setForegroundRole(QPalette::PlaceholderText);
  text->addWidget(next_);
  text->addWidget(why_);
  across->addLayout(text, 1);
  done_ = new PressButton(say_q("Done (D)"), true, this);
  skip_ = new PressButton(say_q("Skip (K)"), false, this);
  across->addWidget(done_);
  across->addWidget(skip_);
  connect(done_, &QPushButton::clicked, this, [this] { change(false); });
  connect(skip_, &QPushButton::clicked, this, [this] { change(true); });
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.document, &Document::changed)
      .on(session.playhead, &Playhead::moved)
      .on(session.run, &Run::changed);
  refresh();
}

void NextCard::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), colours().card);
}

long long NextCard::frame() const {
  const journal::ShootState& state = session_.run.state();
  return state.active ? state.frame_at(now()) : session_.playhead.at();
}

const ramp::Ramp* NextCard::ramp() {
  const journal::ShootState& state = session_.run.state();
  // Beside a real camera the light is that of the hour it is really shot at.
  const bool real = state.active && !state.standin;
  if (!real || !forecast::knows_light(session_.document.take())) return session_.document.ramp();
  if (!ramp_ || ramp_from_ != state.first || !(ramp_take_ == session_.document.take())) {
    ramp_take_ = session_.document.take();
    ramp_from_ = state.first;
    take::Take shot = ramp_take_;
    shot.start = state.first;
    if (shot.metered && !shot.light.source.anchor) take::meter(shot, *shot.metered, ramp_take_.start);
    try {
      ramp_ = forecast::ramp_of(shot);
    } catch (const Error&) {
      ramp_.reset();
    }
  }
  return ramp_ && !ramp_->ev.empty() ? &*ramp_ : nullptr;
}

advice::NextChange NextCard::next() {
  const journal::ShootState& state = session_.run.state();
  return advice::next_change(session_.document.take(), ramp(), state.active ? state : journal::ShootState{},
                             frame());
}

void NextCard::refresh() {
  const journal::ShootState& state = session_.run.state();
  const advice::NextChange next = this->next();
  if (next_->text() != to_q(next.what)) next_->setText(to_q(next.what));
  QString why = to_q(next.why);
  if (by_hand())
    why += say_q("  Now ") + to_q(advice::dials_now_words(session_.document.take(), ramp(), state, frame())) +
           ".";
  if (why_->text() != why) why_->setText(why);
  const bool can = by_hand() && (next.click || next.set);
  done_->setEnabled(can);
  skip_->setEnabled(can);
  if (!can) return;
  const long long due = frame() + next.frames_left;
  const double frame_s = std::max(0.01, state.real_interval_s());
  if (due != told_ &&
      next.frames_left <= std::max(1LL, static_cast<long long>(std::ceil(kSoon_s / frame_s)))) {
    told_ = due;
    emit this->due();
  }
}

bool NextCard::by_hand() const {
  const journal::ShootState& state = session_.run.state();
  return state.active && (!state.standin || state.scale > 0) &&
         session_.document.take().light.method == ramp::Method::Hand;
}

void NextCard::change(bool skipped) {
  if (!by_hand()) return;
  const advice::NextChange next = this->next();
  const long long before = frame() + 1;
  if (skipped) {
    if (next.click || next.set) session_.run.skip(before);
  } else if (next.set) {
    session_.run.set_dials(before, *next.set, next.filters_off);
  } else if (next.click) {
    session_.run.turn(before, *next.click, true);
  }
}

void NextCard::turn(ramp::Dial dial, bool brighter) {
  if (by_hand()) session_.run.turn(frame() + 1, {0, dial, brighter}, false);
}

}  // namespace askcount::app

#include "moc_next_card.cpp"
