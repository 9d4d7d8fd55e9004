// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/ask/whole_film.h"

#include <algorithm>
#include <cmath>
#include <QPainter>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr int kWords = 216;   // the words' column
constexpr int kBetween = 14;  // two films
constexpr int kCaption = 54;  // below a film
constexpr int kTick_ms = 4;
constexpr int kSettle_ms = 150;  // an edit is followed by the next sooner than this

}  // namespace

WholeFilm::WholeFilm(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("whole film");
  setAccessibleName(say_q("The whole film of this plan, shot by the stand-in; click or press Space to play"));
  setCursor(Qt::PointingHandCursor);
  play_ = new PressButton(say_q("Play"), true, this);
  play_->setObjectName("play the whole film");
  keep_ = new PressButton(say_q("Keep to compare"), false, this);
  keep_->setObjectName("keep to compare");
  keep_->setToolTip(say_q("This plan's film stays; change the plan, and both play side by side."));
  connect(play_, &QPushButton::clicked, this, &WholeFilm::toggle);
  connect(keep_, &QPushButton::clicked, this, &WholeFilm::keep_or_let_go);
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(kTick_ms);
  connect(&timer_, &QTimer::timeout, this, &WholeFilm::tick);
  wait_.setSingleShot(true);
  wait_.setInterval(kSettle_ms);
  connect(&wait_, &QTimer::timeout, this, [this] {
    if (isVisible()) now_.shoot(session_.document.take());
  });
  connect(&now_, &TrialReel::changed, this, [this] {
    at_s_ = std::min(at_s_, length_s());
    say();
    update();
  });
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  connect(&session.document, &Document::replaced, this, [this] {
    kept_.reset();  // another take's film
    at_s_ = 0;
    now_picture_ = kept_picture_ = {};
    if (playing()) toggle();
  });
}

void WholeFilm::refresh() {
  if (now_.about())
    wait_.start();
  else
    now_.shoot(session_.document.take());
  say();
  update();
}

double WholeFilm::length_s() const {
  double s = 0;
  for (const TrialReel* reel :
       {static_cast<const TrialReel*>(&now_), static_cast<const TrialReel*>(kept_.get())})
    if (reel && reel->about())
      s = std::max(s, static_cast<double>(reel->about()->frames) / reel->about()->fps.value());
  return s;
}

long long WholeFilm::frame_of(const TrialReel& reel, double at_s) {
  return simulate::frame_at(reel.about()->fps, reel.about()->frames, at_s);
}

void WholeFilm::toggle() {
  if (playing()) {
    timer_.stop();
  } else if (now_.about()) {
    if (at_s_ >= length_s() - 1e-9) at_s_ = 0;
    began_s_ = at_s_;
    shown_ = 0;
    last_frame_ = -1;
    clock_.start();
    timer_.start();
  }
  say();
  update();
}

void WholeFilm::tick() {
  if (!now_.about()) return;
  double to = began_s_ + static_cast<double>(clock_.elapsed()) / 1000;
  if (to >= length_s()) {  // from the start again
    began_s_ = to = 0;
    clock_.restart();
  }
  // Where the next frame is not there yet, the film waits for it rather than leaving it out.
  const long long frame = frame_of(now_, to);
  if (frame == last_frame_ && !kept_) return;
  if (now_.ready_from(frame) == 0) {
    now_.picture(frame);
    began_s_ = at_s_;
    clock_.restart();
    return;
  }
  if (frame != last_frame_) ++shown_;
  last_frame_ = frame;
  at_s_ = to;
  update();
}

void WholeFilm::keep_or_let_go() {
  if (kept_) {
    kept_.reset();
    kept_picture_ = {};
  } else if (now_.about()) {
    kept_ = std::make_unique<TrialReel>();
    connect(kept_.get(), &TrialReel::changed, this, qOverload<>(&QWidget::update));
    kept_->shoot(now_.take());
  }
  say();
  update();
}

void WholeFilm::say() {
  play_->setText(playing() ? say_q("Pause") : say_q("Play"));
  keep_->setText(kept_ ? say_q("Discard the kept plan") : say_q("Keep to compare"));
  play_->setVisible(now_.about().has_value());
  keep_->setVisible(now_.about().has_value());
  play_->adjustSize();
  keep_->adjustSize();
  const int right = side_left(), below = screen_rect(0).bottom();
  keep_->move(right, below - keep_->height() + 1);
  play_->move(right, keep_->y() - play_->height() - 8);
}

QRect WholeFilm::screen_rect(int which) const {
  const int films = kept_ ? 2 : 1;
  const QSize room((width() - kWords - 20 - (films - 1) * kBetween) / films, height() - kCaption);
  const auto& about = now_.about();
  const QSize size =
      (about ? QSize(about->size.width, about->size.height) : QSize(16, 9)).scaled(room, Qt::KeepAspectRatio);
  return {QPoint(which * (size.width() + kBetween), 0), size};
}

int WholeFilm::side_left() const {
  return screen_rect(kept_ ? 1 : 0).right() + 20;
}

void WholeFilm::paint_screen(QPainter& p, int which, TrialReel& reel, QImage& last, const QString& name) {
  const Colours& c = colours();
  const QRect room = screen_rect(which);
  p.fillRect(room, c.well);
  p.setFont(word_font(9));
  if (!reel.about()) {
    p.setPen(c.muted);
    p.drawText(room.adjusted(16, 0, -16, 0), Qt::AlignCenter | Qt::TextWordWrap,
               reel.trouble().isEmpty() ? say_q("The stand-in is setting up …") : reel.trouble());
    return;
  }
  if (const QImage image = reel.picture(frame_of(reel, at_s_)); !image.isNull()) last = image;
  if (!last.isNull()) {
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    const QSize size = last.size().scaled(room.size(), Qt::KeepAspectRatio);
    p.drawImage(
        QRect(room.topLeft() + QPoint((room.width() - size.width()) / 2, (room.height() - size.height()) / 2),
              size),
        shown_picture(last));
  }
  // Where it is, in film time.
  const double share = length_s() > 0 ? at_s_ / length_s() : 0;
  p.fillRect(QRectF(room.left(), room.bottom() + 3, room.width(), 3), c.line);
  p.fillRect(QRectF(room.left(), room.bottom() + 3, room.width() * share, 3), c.film_fill);
  const auto line = [&](int y, const QString& text, const QColor& ink) {
    p.setPen(ink);
    p.drawText(QRect(room.left(), room.bottom() + y, room.width(), 20), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(text, Qt::ElideRight, room.width()));
  };
  line(9, name + reel.about()->plan, c.ink);
  line(27, reel.about()->over, reel.about()->lost ? c.stop : c.muted);
}

void WholeFilm::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  paint_screen(p, 0, now_, now_picture_, kept_ ? say_q("Now: ") : QString());
  if (kept_) paint_screen(p, 1, *kept_, kept_picture_, say_q("Kept: "));
  if (!now_.about()) return;
  QRect side(side_left(), 0, kWords, play_->y() - 6);
  const auto write = [&](const QString& text, const QColor& ink, const QFont& font) {
    p.setPen(ink);
    p.setFont(font);
    QRect used;
    p.drawText(side, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, text, &used);
    side.setTop(used.bottom() + 7);
  };
  write(say_q("%1 of %2")
            .arg(to_q(format_length(std::floor(at_s_ * 10) / 10, 1)), to_q(format_length(length_s(), 1))),
        c.film, word_font(10, QFont::DemiBold));
  write(say_q("Shot by the stand-in: ") + now_.about()->seen + ".", c.muted, word_font(9));
}

void WholeFilm::mousePressEvent(QMouseEvent*) {
  toggle();
}

void WholeFilm::hideEvent(QHideEvent*) {
  if (playing()) toggle();
}

void WholeFilm::resizeEvent(QResizeEvent*) {
  say();
}

}  // namespace askcount::app

#include "moc_whole_film.cpp"
