// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/shoot_head.h"

#include <algorithm>
#include <QPainter>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/dials.h"
#include "base/units.h"
#include "forecast/shoot.h"
#include "journal/hand.h"

namespace askcount::app {

ShootHead::ShootHead(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("shoot head");
  setAccessibleName(say_q("Frame, and time to the next shot"));
  setFixedHeight(158);
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
  connect(&session.frames, &Frames::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
  connect(&session.run, &Run::changed, this, qOverload<>(&QWidget::update));
  connect(&session.run, &Run::shot_landed, this, qOverload<>(&QWidget::update));
}

void ShootHead::flash(bool on) {
  flash_ = on;
  update();
}

double ShootHead::open_at(long long frame, const timer::Program& program) const {
  const take::Take& t = session_.document.take();
  if (program.bulb || t.shot.brackets > 1) return program.open_s;
  const journal::ShootState& state = session_.run.state();
  if (state.active && state.standin && session_.run.landed())
    return session_.run.landed()->exposure.shutter_s;
  const auto& exposure = session_.document.exposure();
  if (state.active)
    return journal::dials_of(state, exposure ? exposure->first : ramp::Exposure{}, t.light.rule).shutter_s;
  if (session_.frames.gathered() && frame >= 0 && frame < session_.playhead.count())
    if (const auto& shot = (*session_.frames.list())[static_cast<size_t>(frame)].info().shutter_s)
      return *shot;
  if (const ramp::Ramp* r = session_.document.ramp())
    return r->chain[static_cast<size_t>(std::clamp(frame, 0LL, static_cast<long long>(r->chain.size()) - 1))]
        .shutter_s;
  return program.open_s;
}

/// What is told of one moment.
struct ShootHead::Moment {
  const take::Take& take;
  const plan::Sums& sums;
  const journal::ShootState& state;
  timer::Program program;
  long long frame = 0;
  std::optional<Seconds> next;  ///< to the next shot
  QColor ink;
};

void ShootHead::paint_frame(QPainter& p, const Moment& m) {
  const Colours& c = colours();
  const bool active = m.state.active;
  p.setPen(c.muted);
  p.setFont(word_font(9.5, QFont::DemiBold));
  p.drawText(0, 12, say_q("Frame"));
  p.setPen(m.ink);
  p.setFont(figure_font(50, true));
  const QString number = m.frame < 0 ? "–" : to_q(format_count(m.frame + 1));
  p.drawText(-3, 82, number);
  const int after = p.fontMetrics().horizontalAdvance(number) + 28;
  p.setFont(word_font(16));
  p.setPen(c.muted);
  p.drawText(after, 50,
             say_q("of ") + to_q(format_count(active                       ? m.state.count
                                              : session_.frames.gathered() ? session_.playhead.count()
                                                                           : plan::shots_of(m.sums))));
  const bool real = active && !m.state.standin;
  const Instant end =
      real
          ? later(m.state.first, static_cast<double>(m.state.count - 1) * m.state.interval_s)
          : later(m.take.start, session_.document.schedule().at_s(0) + session_.document.program().field_s());
  p.drawText(after, 78, say_q("ends ") + to_q(format_clock(end, m.take.place.zone, true)));
}

void ShootHead::paint_next(QPainter& p, const Moment& m) {
  const Colours& c = colours();
  const auto& [t, s, state, program, frame, next, ink] = m;
  const bool active = state.active;
  p.setFont(word_font(9.5, QFont::DemiBold));
  const QRectF right(width() - 380, 0, 380, 16);
  p.setPen(c.muted);
  if (state.paused) {
    p.drawText(right, Qt::AlignRight | Qt::AlignVCenter, say_q("Paused"));
  } else if (next) {
    p.drawText(right, Qt::AlignRight | Qt::AlignVCenter,
               frame < 0 ? say_q("First shot in") : say_q("Next shot in"));
  } else {
    p.drawText(right, Qt::AlignRight | Qt::AlignVCenter,
               active ? say_q("Clock at ") + to_q(t.place.name) : say_q("This frame at"));
  }
  p.setPen(ink);
  p.setFont(figure_font(33));
  QString big;
  if (next)
    big = to_q(format_length(std::max(0.0, *next * (state.scale > 0 ? state.scale : 1)), 1));
  else if (active && session_.run.landed())
    big = to_q(format_clock(session_.run.landed()->start, t.place.zone, true));
  else
    big = to_q(format_clock(session_.document.schedule().at(std::max(0LL, frame)), t.place.zone, true));
  if (next && big.indexOf('.') < 0 && *next * std::max(1.0, state.scale) < 60) big.replace(" s", ".0 s");
  p.drawText(QRectF(width() - 380, 22, 380, 60), Qt::AlignRight | Qt::AlignVCenter, big);
}

/// One interval: open, writing, free.
void ShootHead::paint_interval(QPainter& p, const Moment& m) {
  const Colours& c = colours();
  const auto& [t, s, state, program, frame, next, ink] = m;
  // How long it is open at this frame: as it was shot, as the dials stand, or as the plan has it there.
  const double interval = program.interval_s, open = open_at(frame, program),
               writing = t.body().writing_s + forecast::cycle_of(t, program.shutter.longest_s).dark_s;
  const QRectF bar(0, 98, width(), 16);
  const auto x = [&](double seconds) {
    return bar.left() + std::clamp(seconds / interval, 0.0, 1.0) * bar.width();
  };
  p.fillRect(bar, c.card);
  p.fillRect(QRectF(bar.left(), bar.top(), x(open) - bar.left(), bar.height()), c.field);
  p.fillRect(QRectF(x(open), bar.top(), x(open + writing) - x(open), bar.height()), c.field_fill);
  p.setPen(c.line);
  p.setBrush(Qt::NoBrush);
  p.drawRect(bar);
  if (next && frame >= 0) {
    const double at = x(interval - *next * std::max(state.scale, 1e-9));
    p.fillRect(QRectF(at - 1.5, bar.top() - 4, 3, bar.height() + 8), c.here);
  }
  p.setFont(word_font(9.5));
  p.setPen(c.muted);
  const QRectF below(0, 119, width(), 20);
  p.drawText(below, Qt::AlignLeft | Qt::AlignVCenter,
             say_q("shutter open ") + to_q(dial_shutter_words(open)));
  const QString free = say_q("free to turn the dial");
  const double from = std::max(x(open + writing), bar.left() + 170.0);
  if (interval - open - writing > 0)
    p.drawText(QRectF(from, 119, bar.right() - from - 80, 20), Qt::AlignCenter,
               x(open + writing) - x(open) > 60 ? say_q("writing, then ") + free : free);
  p.drawText(below, Qt::AlignRight | Qt::AlignVCenter, to_q(format_length(interval)));
}

/// What the dials stand on, or what the frame was shot with.
QString ShootHead::dials_at(const Moment& m) const {
  if (m.state.active && session_.run.landed()) {
    const ramp::Exposure& e = session_.run.landed()->exposure;
    return QString("%1, %2, %3")
        .arg(to_q(ramp::dial_words(ramp::Dial::Shutter, e)), to_q(ramp::dial_words(ramp::Dial::Aperture, e)),
             to_q(ramp::dial_words(ramp::Dial::Iso, e)));
  }
  if (m.state.active || !session_.frames.gathered() || m.frame < 0 || m.frame >= session_.playhead.count())
    return {};
  const media::ShotInfo& info = (*session_.frames.list())[static_cast<size_t>(m.frame)].info();
  if (!info.shutter_s || !info.f_number || !info.iso) return {};
  return say_q("shot with %1, f/%2, ISO %3")
      .arg(to_q(format_shutter(*info.shutter_s)), to_q(format_number(*info.f_number, 1)),
           to_q(format_number(*info.iso, 0)));
}

void ShootHead::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  if (!session_.document.sums()) return;
  if (flash_) p.fillRect(rect(), c.answer);
  const journal::ShootState& state = session_.run.state();
  const Moment m{session_.document.take(),
                 *session_.document.sums(),
                 state,
                 session_.document.program(),
                 state.active ? state.frame_at(now()) : session_.playhead.at(),
                 state.next_shot_in(now()),
                 flash_ ? c.answer_ink : c.ink};
  paint_frame(p, m);
  paint_next(p, m);
  paint_interval(p, m);
  p.drawText(QRectF(0, 138, width(), 18), Qt::AlignLeft | Qt::AlignVCenter, dials_at(m));
  const auto& landed = session_.run.landed();
  if (state.active && state.standin && state.scale <= 0 && landed && landed->total > 0)
    p.fillRect(
        QRectF(0, 155, width() * static_cast<double>(landed->done) / static_cast<double>(landed->total), 3),
        c.field);
}

}  // namespace askcount::app
