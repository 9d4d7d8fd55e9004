#include "app/stages/shoot/next_card.h"

#include <algorithm>
#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "advice/next_change.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"

namespace askcount::app {
namespace {

constexpr double kSoon_s = 20;  // field seconds before a change at which it is called out

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
  done_ = new PressButton("Done (D)", true, this);
  skip_ = new PressButton("Skip (K)", false, this);
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

void NextCard::refresh() {
  const journal::ShootState& state = session_.run.state();
  const ramp::Ramp* ramp = session_.document.ramp();
  const advice::NextChange next = advice::next_change(session_.document.take(), ramp,
                                                      state.active ? state : journal::ShootState{}, frame());
  if (next_->text() != to_q(next.what)) next_->setText(to_q(next.what));
  if (why_->text() != to_q(next.why)) why_->setText(to_q(next.why));
  const bool by_clock = state.active && (!state.standin || state.scale > 0);
  const bool can = by_clock && next.due.has_value();
  done_->setEnabled(can);
  skip_->setEnabled(can);
  if (can && next.due->click != told_ && next.in_s < kSoon_s && next.due->frame - frame() <= 1) {
    told_ = next.due->click;
    emit due();
  }
}

void NextCard::change(bool skipped) {
  const ramp::Ramp* ramp = session_.document.ramp();
  const journal::ShootState& state = session_.run.state();
  if (!ramp || !state.active) return;
  const auto next = advice::next_change(session_.document.take(), ramp, state, frame());
  if (!next.due) return;
  const ramp::RampStep& step = ramp->steps[static_cast<size_t>(next.due->click)];
  session_.run.change_done(next.due->click, frame() + 1, step.click.frame, skipped);
  if (!skipped) session_.run.turn(step.click.dial, step.click.brighter);
}

}  // namespace askcount::app
