// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/ramp_chart.h"

#include <algorithm>
#include <cmath>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"
#include "forecast/light.h"

namespace askcount::app {
namespace {

constexpr double kLeft = 78, kRight = 4, kLane = 21, kBetween = 5, kYou = 22, kReadout = 17;

}  // namespace

RampChart::RampChart(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("ramp");
  say_keys();
  setAccessibleName(say_q("The light and the dials over field time"));
  setFocusPolicy(Qt::StrongFocus);
  setMinimumHeight(180);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setMouseTracking(false);
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
}

QRectF RampChart::curve() const {
  return {kLeft, kReadout, width() - kLeft - kRight,
          std::max(50.0, height() - kReadout - 3 * (kLane + kBetween) - kYou - 8)};
}
QRectF RampChart::lane(int i) const {
  return {kLeft, curve().bottom() + 6 + i * (kLane + kBetween), width() - kLeft - kRight, kLane};
}

double RampChart::x_of(double frame) const {
  const double n = std::max(1.0, static_cast<double>(session_.document.ramp()->ev.size()));
  return kLeft + frame / n * (width() - kLeft - kRight);
}

double RampChart::frame_at(double x) const {
  return std::clamp((x - kLeft) / (width() - kLeft - kRight), 0.0, 1.0) *
         static_cast<double>(session_.document.ramp()->ev.size());
}

namespace {

/// An end of the band, at the first frame and at the last where that differs.
QString band_words(double first, double last) {
  const auto words = [](double v) {
    const QString figure = to_q(format_number(std::abs(v), 1));
    return figure == "0" ? figure : (v < 0 ? "−" : "+") + figure;
  };
  return std::abs(first - last) < 0.25 ? words(first) : words(first) + say_q(" (later ") + words(last) + ")";
}

ramp::Band band_of(const ramp::RampRule& rule, const ramp::Ramp& r, size_t frame) {
  return ramp::band_at(rule, ramp::light_stops_of_ev(r.ev[frame]));
}

}  // namespace

/// The curve's scale: from which EV to which it is drawn in its box.
struct RampChart::Scale {
  QRectF box;
  double low, high;
  ramp::RampRule rule;
  double y(double ev) const { return box.bottom() - (ev - low) / (high - low) * box.height(); }
};

void RampChart::paint_rulings(QPainter& p, const Scale& scale) {
  const Colours& c = colours();
  const auto& [box, low, high, rule] = scale;
  p.setFont(figure_font(8.5));
  double step = 1;
  while ((high - low) / step > 5) step *= 2;
  for (double ev = std::ceil(low / step) * step; ev < high; ev += step) {
    p.setPen(QPen(c.line, 0.7));
    p.drawLine(QPointF(box.left(), scale.y(ev)), QPointF(box.right(), scale.y(ev)));
    p.setPen(c.muted);
    draw_fitted(p, QRectF(0, scale.y(ev) - 8, kLeft - 8, 16), Qt::AlignRight | Qt::AlignVCenter,
                say_q("EV %1").arg(std::lround(ev)));
  }
}

void RampChart::paint_lines(QPainter& p, const ramp::Ramp& r, const Scale& scale) {
  const Colours& c = colours();
  const QRectF& box = scale.box;
  const size_t n = r.ev.size();
  const size_t stride = std::max<size_t>(1, n / static_cast<size_t>(std::max(50.0, box.width())));
  QPolygonF scene, stairs;
  for (size_t i = 0; i < n; i += stride) {
    const double x = x_of(static_cast<double>(i) + 0.5);
    scene << QPointF(x, scale.y(r.ev[i]));
    stairs << QPointF(x, scale.y(r.ev[i] - r.meter[i]));
  }
  // The exposure's own EV may lie where the meter is in its band.
  QPolygonF area;
  for (size_t i = 0; i < n; i += stride)
    area << QPointF(x_of(static_cast<double>(i) + 0.5),
                    scale.y(r.ev[i] - band_of(scale.rule, r, i).high_stops));
  for (size_t i = (n - 1) / stride * stride + stride; i-- > 0;)
    if (i % stride == 0)
      area << QPointF(
          x_of(static_cast<double>(i) + 0.5),
          scale.y(r.ev[std::min(i, n - 1)] - band_of(scale.rule, r, std::min(i, n - 1)).low_stops));
  QColor fill = c.field_fill;
  fill.setAlphaF(0.55F);
  p.setPen(Qt::NoPen);
  p.setBrush(fill);
  p.drawPolygon(area);
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(c.ink, 2));
  p.drawPolyline(scene);
  p.setPen(QPen(c.field, 1.6));
  p.drawPolyline(stairs);
  for (const ramp::Outrun& o : r.outrun) {  // where it leaves the band
    QColor bad = c.stop;
    bad.setAlphaF(0.25F);
    p.fillRect(QRectF(x_of(static_cast<double>(o.from)), box.top(),
                      std::max(2.0, x_of(static_cast<double>(o.to + 1)) - x_of(static_cast<double>(o.from))),
                      box.height()),
               bad);
  }
}

void RampChart::paint_names(QPainter& p, const ramp::Ramp& r, const Scale& scale) {
  const Colours& c = colours();
  const QRectF& box = scale.box;
  const size_t n = r.ev.size();
  p.setFont(word_font(8.5));
  p.setPen(c.ink);
  p.drawText(
      QPointF(box.left() + 8, scale.y(r.ev.front()) + (scale.y(r.ev.front()) < box.center().y() ? 26 : -22)),
      say_q("the scene"));
  p.setPen(c.field);
  p.drawText(
      QPointF(box.left() + 76, scale.y(r.ev.front()) + (scale.y(r.ev.front()) < box.center().y() ? 26 : -22)),
      say_q("the dials, kept %1 to %2 stops by the meter")
          .arg(band_words(band_of(scale.rule, r, 0).low_stops, band_of(scale.rule, r, n - 1).low_stops),
               band_words(band_of(scale.rule, r, 0).high_stops, band_of(scale.rule, r, n - 1).high_stops)));
}

/// Where the light is at the frame looked at, and how fast it goes.
void RampChart::paint_here(QPainter& p, const ramp::Ramp& r) {
  const Colours& c = colours();
  const size_t n = r.ev.size();
  const auto at =
      static_cast<size_t>(std::clamp<long long>(session_.playhead.at(), 0, static_cast<long long>(n) - 1));
  const double per_frame = n > 1 ? r.ev[std::min(at + 1, n - 1)] - r.ev[std::min(at + 1, n - 1) - 1] : 0;
  const double x = x_of(static_cast<double>(at) + 0.5);
  p.setPen(QPen(c.here, 1.8));
  p.drawLine(QPointF(x, curve().top()), QPointF(x, lane(2).bottom()));
  p.setFont(word_font(9));
  p.setPen(c.ink);
  const plan::Schedule& schedule = session_.document.schedule();
  const auto signed_words = [](double v, int decimals) {
    const QString figure = to_q(format_number(std::abs(v), decimals));
    return figure == "0" ? figure : QString(v < 0 ? "−" : "+") + figure;
  };
  p.drawText(QRectF(kLeft, 0, width() - kLeft, kReadout), Qt::AlignLeft | Qt::AlignVCenter,
             say_q("%1, frame %2: EV %3, %4 stops a minute, %5 a frame; the meter stands at %6")
                 .arg(to_q(format_clock(schedule.at(static_cast<long long>(at)),
                                        session_.document.take().place.zone, true)),
                      to_q(format_count(static_cast<long long>(at) + 1)), to_q(format_number(r.ev[at], 1)),
                      signed_words(per_frame / schedule.interval_s() * 60, 2), signed_words(per_frame, 3),
                      signed_words(r.meter[at], 1)));
}

void RampChart::paint_curve(QPainter& p, const ramp::Ramp& r) {
  p.fillRect(curve(), colours().well);
  const size_t n = r.ev.size();
  const ramp::RampRule rule = forecast::rule_of(session_.document.take());
  // The dials lie over the scene by what the band is below the meter's own: by night that is more.
  const double low_ev = *std::min_element(r.ev.begin(), r.ev.end());
  double high_ev = low_ev + 2;
  for (size_t i = 0; i < n; i += std::max<size_t>(1, n / 500))
    high_ev = std::max(high_ev, r.ev[i] - band_of(rule, r, i).low_stops);
  const Scale scale{curve(), low_ev - 1.2, high_ev + 0.6, rule};
  paint_rulings(p, scale);
  paint_lines(p, r, scale);
  paint_names(p, r, scale);
  paint_here(p, r);
}

void RampChart::paint_lanes(QPainter& p, const ramp::Ramp& r) {
  using ramp::Dial;
  const Colours& c = colours();
  const QString names[] = {say_q("Shutter"), say_q("Aperture"), "ISO"};
  for (int i = 0; i < 3; ++i) {
    const auto dial = static_cast<Dial>(i);
    const QRectF at = lane(i);
    p.setFont(word_font(9, QFont::DemiBold));
    p.setPen(c.ink);
    draw_fitted(p, QRectF(0, at.top(), kLeft - 8, at.height()), Qt::AlignRight | Qt::AlignVCenter, names[i]);
    std::vector<size_t> own;  // steps on this dial
    for (size_t k = 0; k < r.steps.size(); ++k)
      if (r.steps[k].click.dial == dial) own.push_back(k);
    p.setFont(figure_font(8.5));
    double from = at.left();
    for (size_t k = 0; k <= own.size(); ++k) {
      const double to = k < own.size() ? x_of(static_cast<double>(r.steps[own[k]].click.frame)) : at.right();
      QColor fill = c.field_fill;
      fill.setAlphaF(k % 2 == 0 ? 0.95F : 0.65F);
      p.fillRect(QRectF(from, at.top(), std::max(0.0, to - from - 1), at.height()), i == 0       ? fill
                                                                                    : k % 2 == 0 ? c.line
                                                                                                 : c.column);
      const ramp::Exposure& e = own.empty()      ? r.chain.front()
                                : k < own.size() ? r.steps[own[k]].before
                                                 : r.steps[own.back()].after;
      QString label = to_q(ramp::dial_words(dial, e));
      if (i == 2) label = label.mid(4);
      if (p.fontMetrics().horizontalAdvance(label) + 6 < to - from) {
        p.setPen(c.ink);
        p.drawText(QRectF(from, at.top(), to - from, at.height()), Qt::AlignCenter, label);
      }
      from = to;
    }
  }
  // What the hands do.
  const double y = lane(2).bottom() + 5;
  p.setFont(word_font(9, QFont::DemiBold));
  p.setPen(c.ink);
  draw_fitted(p, QRectF(0, y - 2, kLeft - 8, 18), Qt::AlignRight | Qt::AlignVCenter, say_q("You do"));
  for (size_t k = 0; k < r.steps.size(); ++k) {
    const ramp::RampStep& s = r.steps[k];
    const double x = x_of(static_cast<double>(s.click.frame));
    const bool chosen = static_cast<int>(k) == chosen_ && hasFocus();
    p.setPen(Qt::NoPen);
    p.setBrush(chosen ? c.field : s.late ? c.stop : s.rushed ? c.warning : c.ink);
    const double h = s.click.brighter ? 1 : -1, m = y + 6;
    p.drawPolygon(QPolygonF({{x, m - 5 * h}, {x + 4.5, m + 4 * h}, {x - 4.5, m + 4 * h}}));
  }
  if (r.steps.empty()) {
    p.setFont(word_font(9));
    p.setPen(c.muted);
    p.drawText(QRectF(kLeft, y - 2, 400, 18), Qt::AlignLeft | Qt::AlignVCenter,
               say_q("nothing: the light stays within the band"));
  } else if (chosen_ >= 0 && chosen_ < static_cast<int>(r.steps.size()) && hasFocus()) {
    const ramp::RampStep& s = r.steps[static_cast<size_t>(chosen_)];
    p.setFont(word_font(9));
    p.setPen(c.ink);
    p.drawText(QRectF(kLeft, y + 11, width() - kLeft, 14), Qt::AlignLeft | Qt::AlignVCenter,
               say_q("Before frame %1: %2, the meter then at %3. Ctrl with the arrows moves it.")
                   .arg(to_q(format_count(s.click.frame + 1)), to_q(ramp::step_words(s)),
                        to_q(format_number(s.meter_after, 1))));
  }
}

void RampChart::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const ramp::Ramp* r = session_.document.ramp();
  if (!r || r->ev.empty()) {
    p.setPen(colours().muted);
    p.setFont(word_font(10));
    p.drawText(rect(), Qt::AlignCenter,
               forecast::knows_light(session_.document.take())
                   ? say_q("There are too many frames to follow the light.")
                   : say_q("Say above where and when, and the light is drawn here."));
    return;
  }
  paint_curve(p, *r);
  paint_lanes(p, *r);
  if (hasFocus()) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colours().field, 1.6));
    p.drawRect(curve());
  }
}

void RampChart::move_click(int index, long long frame) {
  const ramp::Ramp* r = session_.document.ramp();
  if (!r || index < 0 || index >= static_cast<int>(r->steps.size())) return;
  std::vector<ramp::Click> clicks;
  for (const ramp::RampStep& s : r->steps) clicks.push_back(s.click);
  // A click stays between its neighbours, so that it stays the same click.
  const auto at = static_cast<size_t>(index);
  const long long least = at > 0 ? clicks[at - 1].frame + 1 : 1,
                  most = at + 1 < clicks.size() ? clicks[at + 1].frame - 1
                                                : static_cast<long long>(r->ev.size()) - 1;
  if (most < least) return;
  clicks[at].frame = std::clamp(frame, least, most);
  session_.document.edit([&](take::Take& t) { t.light.clicks = clicks; }, "click");
}

void RampChart::mousePressEvent(QMouseEvent* event) {
  const ramp::Ramp* r = session_.document.ramp();
  if (!r || r->ev.empty()) return;
  if (event->position().y() < curve().bottom())
    return session_.playhead.set(static_cast<long long>(frame_at(event->position().x())));
  double nearest = 8;
  chosen_ = -1;
  for (size_t k = 0; k < r->steps.size(); ++k) {
    const int row = static_cast<int>(r->steps[k].click.dial);
    const bool own_lane =
        lane(row).adjusted(0, -2, 0, 2).contains(QPointF(kLeft + 1, event->position().y())) ||
        event->position().y() > lane(2).bottom();
    const double d = std::abs(x_of(static_cast<double>(r->steps[k].click.frame)) - event->position().x());
    if (own_lane && d < nearest) nearest = d, chosen_ = static_cast<int>(k);
  }
  dragging_ = chosen_ >= 0;
  update();
}

void RampChart::mouseMoveEvent(QMouseEvent* event) {
  if (!(event->buttons() & Qt::LeftButton) || !session_.document.ramp()) return;
  if (dragging_)
    move_click(chosen_, std::llround(frame_at(event->position().x())));
  else if (event->position().y() < curve().bottom())
    session_.playhead.set(static_cast<long long>(frame_at(event->position().x())));
}

void RampChart::mouseReleaseEvent(QMouseEvent*) {
  dragging_ = false;
  session_.document.end_drag();
}

void RampChart::say_keys() {
  const auto count = [this] {
    const ramp::Ramp* r = session_.document.ramp();
    return r ? static_cast<int>(r->steps.size()) : 0;
  };
  const auto frame = [this](int n) {
    return session_.document.ramp()->steps[static_cast<size_t>(n)].click.frame;
  };
  const auto choose = [=, this](int by) {
    if (count() == 0) return;
    chosen_ = std::clamp(chosen_ + by, 0, count() - 1);
    session_.playhead.set(frame(chosen_));
    update();
  };
  const auto move = [=, this](int by) {
    if (chosen_ < 0 || chosen_ >= count()) return;
    move_click(chosen_, frame(chosen_) + by);
    session_.document.end_drag();
  };
  keys_.add(Qt::Key_N, say_q("To the next click"), [choose] { choose(1); });
  keys_.add(Qt::Key_P, say_q("To the click before"), [choose] { choose(-1); });
  keys_.add(
      Qt::Key_Left, say_q("The click a frame earlier"), [move] { move(-1); }, Qt::ControlModifier);
  keys_.add(
      Qt::Key_Right, say_q("The click a frame later"), [move] { move(1); }, Qt::ControlModifier);
}

void RampChart::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

}  // namespace askcount::app

#include "moc_ramp_chart.cpp"
