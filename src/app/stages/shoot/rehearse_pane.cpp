// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/shoot/rehearse_pane.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QPainter>
#include <QVBoxLayout>

#include "app/session/keeping.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/image.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "forecast/light.h"
#include "forecast/shoot.h"
#include "forecast/trial.h"
#include "simulate/camera.h"
#include "simulate/shoot.h"

namespace askcount::app {
namespace {

constexpr image::Size kSmall{300, 200};
QStringList pace_words() {
  return {"30", "60", "90", "120"};
}

}  // namespace

RehearsePane::RehearsePane(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 8, 0, 0);
  rows->setSpacing(6);
  sentence_ = new Sentence(this, 11.5);
  sentence_->add(say_q("The dusk of this take at"));
  scene_slot_ = sentence_->add_slot(say_q("where it is rehearsed"));
  scene_slot_->setEnabled(false);
  sentence_->add(",");
  speed_slot_ = sentence_->add_slot(say_q("how fast"));
  sentence_->add(say_q(
      "times faster. Up and down turn the shutter, left and right the aperture, page up and down ISO."));
  rows->addWidget(sentence_);
  rows->addSpacing(74);  // the meter
  auto* across = new QHBoxLayout;
  across->setSpacing(20);
  auto* left = new QVBoxLayout;
  dials_ = new QLabel(this);
  dials_->setObjectName("rehearse dials");
  dials_->setFont(figure_font(17, true));
  left->addWidget(dials_);
  start_ = new PressButton(say_q("Begin"), true, this);
  start_->setObjectName("rehearse");
  left->addWidget(start_, 0, Qt::AlignLeft);
  verdict_ = new QLabel(this);
  verdict_->setObjectName("rehearse verdict");
  verdict_->setWordWrap(true);
  verdict_->setFont(word_font(10.5));
  verdict_->setTextFormat(Qt::RichText);
  left->addWidget(verdict_);
  left->addStretch();
  across->addLayout(left, 5);
  auto* right = new QVBoxLayout;
  picture_ = new PictureView(this);
  histogram_ = new Histogram(this);
  right->addWidget(picture_, 1);
  right->addWidget(histogram_);
  across->addLayout(right, 4);
  rows->addLayout(across, 1);
  rows->addSpacing(126);  // the chart
  speed_slot_->set_choices(pace_words());
  connect(speed_slot_, &SlotField::committed, this, [this](const QString& word) {
    if (pace_words().contains(word)) speed_ = word.toDouble(), refresh();
  });
  connect(speed_slot_, &SlotField::nudged, this,
          [this](int n) { speed_ = std::clamp(speed_ + 30 * n, 30.0, 120.0), refresh(); });
  connect(start_, &QPushButton::clicked, this, [this] { running() ? finish() : start(); });
  clock_.setInterval(40);
  connect(&clock_, &QTimer::timeout, this, &RehearsePane::tick);
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  say_keys();
  refresh();
}

QRectF RehearsePane::chart_place() const {
  return {0, height() - 118.0, static_cast<double>(width()), 112};
}

void RehearsePane::start() {
  if (!session_.document.sums()) return;
  const take::Take& t = session_.document.take();
  try {
    const plan::Sums& s = *session_.document.sums();
    const plan::Schedule schedule = forecast::schedule_of(t);
    interval_s_ = schedule.interval_s();
    moments_.clear();
    const Instant start = forecast::world_of(t).start;
    for (long long n = 0; n < std::min<long long>(s.frames, 2000); ++n)
      moments_.push_back(later(start, schedule.at_s(n)));
    const forecast::Scenery scenery = forecast::scenery_of(t, kSmall);
    light_stops_ = scenery.light_stops;
    std::vector<double> light = simulate::metered_light(scenery.scene, scenery.setting, moments_);
    for (double& stops : light) stops += light_stops_;
    rehearsal_ = std::make_unique<journal::Rehearsal>(light, forecast::rule_of(t));
    scene_ = simulate::make_scene(scenery.scene, scenery.setting);
  } catch (const Error& e) {
    return verdict_->setText(QString::fromUtf8(e.what()));
  }
  result_.reset();
  frame_ = 0;
  drawn_ = -1;
  real_.start();
  clock_.start();
  setFocus();
  tick();
  refresh();
}

void RehearsePane::tick() {
  frame_ = static_cast<long long>(static_cast<double>(real_.elapsed()) / 1000 * speed_ / interval_s_);
  if (frame_ >= rehearsal_->frames()) return finish();
  if (frame_ != drawn_) {
    drawn_ = frame_;
    const Instant at = moments_[static_cast<size_t>(frame_)];
    const QImage image = image_of(
        simulate::develop(scene_->seen(at, rehearsal_->dials().shutter_s), rehearsal_->dials(), light_stops_,
                          session_.document.take().stand_in.camera, static_cast<std::uint64_t>(frame_)));
    picture_->set(image);
    histogram_->set(image);
  }
  const ramp::Exposure& e = rehearsal_->dials();
  dials_->setText(QString("%1   %2   %3")
                      .arg(to_q(ramp::dial_words(ramp::Dial::Shutter, e)),
                           to_q(ramp::dial_words(ramp::Dial::Aperture, e)),
                           to_q(ramp::dial_words(ramp::Dial::Iso, e))));
  update();
}

void RehearsePane::finish() {
  clock_.stop();
  if (!rehearsal_) return;
  result_ = rehearsal_->result(frame_ + 1);
  whole_ = frame_ * 2 >= rehearsal_->frames();
  if (whole_)
    session_.book.keep({"dusk", session_.document.take().name, static_cast<double>(result_->score), now()});
  refresh();
  update();
}

void RehearsePane::turn(ramp::Dial dial, bool brighter) {
  if (!running()) return;
  rehearsal_->turn(std::min(frame_ + 1, rehearsal_->frames() - 1), dial, brighter);
  tick();
}

void RehearsePane::say_keys() {
  using ramp::Dial;
  const auto dial = [this](Qt::Key key, const QString& words, Dial which, bool brighter) {
    keys_.add(key, words, [this, which, brighter] { turn(which, brighter); });
  };
  dial(Qt::Key_Up, say_q("Shutter one click brighter"), Dial::Shutter, true);
  dial(Qt::Key_Down, say_q("Shutter one click darker"), Dial::Shutter, false);
  dial(Qt::Key_Left, say_q("Aperture one click brighter"), Dial::Aperture, true);
  dial(Qt::Key_Right, say_q("Aperture one click darker"), Dial::Aperture, false);
  dial(Qt::Key_PageUp, say_q("ISO one click brighter"), Dial::Iso, true);
  dial(Qt::Key_PageDown, say_q("ISO one click darker"), Dial::Iso, false);
  keys_.add(Qt::Key_Escape, say_q("End the rehearsal"), [this] { finish(); });
}

void RehearsePane::refresh() {
  scene_slot_->set(to_q(forecast::scene_for(session_.document.take())), SlotField::Kind::Answer);
  speed_slot_->set(QString::number(static_cast<int>(speed_)), SlotField::Kind::Plain);
  sentence_->reflow();
  start_->setText(running() ? say_q("End it here (Esc)") : result_ ? say_q("Once more") : say_q("Begin"));
  start_->updateGeometry();
  start_->setEnabled(session_.document.sums().has_value());
  if (running()) return verdict_->setText(say_q("Keep the meter between the marks."));
  if (!result_) {
    picture_->set({}, say_q("The quay as the dials see it appears here."));
    dials_->setText({});
    const double minutes = session_.document.sums() ? session_.document.sums()->field_s / speed_ / 60 : 0;
    return verdict_->setText(
        say_q("It takes %1 minutes. Afterwards you see your clicks over those the light called for.")
            .arg(to_q(format_number(minutes, 1))));
  }
  const journal::Rehearsal::Result& r = *result_;
  if (!whole_) return verdict_->setText(say_q("Ended before half of the dusk was over: too short to judge."));
  int best = 0;
  for (const book::Score& s : session_.book.shelf().scores)
    if (s.kind == "dusk") best = std::max(best, static_cast<int>(s.value));
  verdict_->setText(
      QString(say_q("<b>%1 of 100</b> (best so far %2). %3 of yours, %4 were asked for: %5 doubled, "
                    "%6 rushed, %7 out of the band, highlights lost on %8. As shot it would flicker "
                    "by %9 stops.<br><b>Better next time:</b> %10"))
          .arg(r.score)
          .arg(best)
          .arg(to_q(counted(r.clicks, "{} click", "{} clicks")))
          .arg(r.wanted_clicks)
          .arg(r.doubled)
          .arg(r.rushed)
          .arg(to_q(counted(r.late, "{} frame", "{} frames")),
               to_q(counted(r.highlights_lost, "{} frame", "{} frames")),
               to_q(format_number(r.flicker_stops, 2)), to_q(r.better)));
}

void RehearsePane::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  // The meter: three stops either way, the band marked.
  const double top = sentence_->geometry().bottom() + 10;
  const QRectF at(0, top + 18, width(), 16);
  const ramp::RampRule& rule = session_.document.take().light.rule;
  const auto x = [&](double stops) {
    return at.left() + (std::clamp(stops, -3.0, 3.0) + 3) / 6 * at.width();
  };
  p.fillRect(at, c.well);
  p.fillRect(QRectF(x(rule.low_stops), at.top(), x(rule.high_stops) - x(rule.low_stops), at.height()),
             c.field_fill);
  p.setFont(figure_font(8.5));
  for (int s = -3; s <= 3; ++s) {
    p.setPen(QPen(c.ink, s == 0 ? 2 : 1));
    p.drawLine(QPointF(x(s), at.top() - 4), QPointF(x(s), at.top()));
    const QString label = s == 0 ? "0" : QString(s < 0 ? "−" : "+") + QString::number(std::abs(s));
    p.drawText(QRectF(std::clamp(x(s) - 15, 0.0, width() - 30.0), at.top() - 18, 30, 13),
               s == -3  ? Qt::AlignLeft
               : s == 3 ? Qt::AlignRight
                        : Qt::AlignHCenter,
               label);
  }
  if (rehearsal_ && running()) {
    const double m = rehearsal_->meter(frame_);
    p.setPen(Qt::NoPen);
    p.setBrush(c.here);
    p.drawPolygon(
        QPolygonF({{x(m), at.top() + 2}, {x(m) + 8, at.bottom() + 12}, {x(m) - 8, at.bottom() + 12}}));
    p.setPen(c.ink);
    p.setFont(word_font(10));
    p.drawText(QRectF(0, at.bottom() + 14, width(), 18), Qt::AlignRight,
               say_q("frame %1 of %2, %3")
                   .arg(to_q(format_count(frame_ + 1)), to_q(format_count(rehearsal_->frames())),
                        to_q(format_clock(moments_[static_cast<size_t>(frame_)],
                                          forecast::world_of(session_.document.take()).place.zone, true))));
  }
  // Yours over the wanted one, in stops of exposure.
  const QRectF box = chart_place();
  p.fillRect(box, c.well);
  p.setFont(word_font(9));
  if (!result_) {
    p.setPen(c.muted);
    p.drawText(box, Qt::AlignCenter, say_q("Your ramp and the wanted one"));
    return;
  }
  const auto n = result_->yours.size();
  double low = 1e9, high = -1e9;
  for (size_t i = 0; i < n; ++i)
    for (const double v : {ramp::stops_of(result_->yours[i]), ramp::stops_of(result_->wanted[i])})
      low = std::min(low, v), high = std::max(high, v);
  const auto point = [&](size_t i, double v) {
    return QPointF(box.left() + static_cast<double>(i) / std::max<size_t>(1, n - 1) * box.width(),
                   box.bottom() - 8 - (v - low) / std::max(0.5, high - low) * (box.height() - 16));
  };
  QPolygonF yours, wanted;
  for (size_t i = 0; i < n; ++i)
    yours << point(i, ramp::stops_of(result_->yours[i])),
        wanted << point(i, ramp::stops_of(result_->wanted[i]));
  p.setPen(QPen(c.muted, 4));
  p.drawPolyline(wanted);
  p.setPen(QPen(c.field, 2));
  p.drawPolyline(yours);
  p.drawText(box.adjusted(10, 6, 0, 0), Qt::AlignLeft | Qt::AlignTop, say_q("your ramp"));
  p.setPen(c.muted);
  p.drawText(box.adjusted(84, 6, 0, 0), Qt::AlignLeft | Qt::AlignTop, say_q("the one the light called for"));
}

}  // namespace askcount::app

#include "moc_rehearse_pane.cpp"
