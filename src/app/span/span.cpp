// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/span/span.h"

#include <algorithm>
#include <cmath>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "advice/gather_advice.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"
#include "sky/events.h"
#include "sky/sun.h"

namespace askcount::app {
namespace {

constexpr double kNames = 92;      // pixels of the names left of the clocks
constexpr double kLeastFilm = 40;  // pixels of the slim film
constexpr int kThreads = 41;
constexpr int kEveryStrong = 4;

QString clock_words(double seconds_of_day, bool with_seconds) {
  const auto s = static_cast<long long>(std::llround(seconds_of_day)) % 86400;
  const long long positive = (s + 86400) % 86400;
  const QString hm =
      QString("%1:%2").arg(positive / 3600, 2, 10, QChar('0')).arg(positive / 60 % 60, 2, 10, QChar('0'));
  return with_seconds ? hm + QString(":%1").arg(positive % 60, 2, 10, QChar('0')) : hm;
}

/// The span is a bar of one height: its type grows with the desktop's, to a quarter more.
QFont on_the_axis(QFont font) {
  font.setPointSizeF(font.pointSizeF() * std::min(type_scale(), 1.25) / type_scale());
  return font;
}

}  // namespace

Span::Span(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setAccessibleName(say_q("Span: field time above, film time below"));
  setCursor(Qt::SizeHorCursor);
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
  connect(&session.frames, &Frames::changed, this, qOverload<>(&QWidget::update));
  connect(&session.run, &Run::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
  connect(&session.run, &Run::shot_landed, this, qOverload<>(&QWidget::update));
}

void Span::show_shot(bool shot) {
  if (shot == shot_) return;
  shot_ = shot;
  update();
}

void Span::set_slim(bool slim) {
  if (slim == slim_) return;
  slim_ = slim;
  emit height_changed();
}

Span::Rows Span::rows() const {
  return wanted_height() == kSlim ? Rows{17, 7, 12, 31, 6} : Rows{27, 9, 17, 83, 9};
}

std::optional<Span::Shown> Span::shown() const {
  const take::Take& take = session_.document.take();
  const auto& sums = session_.document.sums();
  const media::Frames frames = session_.frames.list();
  Shown s;
  if (sums) {
    const plan::Schedule& schedule = session_.document.schedule();
    const Seconds open = sums->interval_s - sums->gap_s;
    s = {take.start,
         schedule.at_s(0) + schedule.field_s(open),
         schedule.interval_s(),
         sums->clip_s,
         sums->frames,
         sums->fps};
  }
  if (!shot_ || frames->size() < 2) return sums ? std::optional(s) : std::nullopt;
  if (!sums) s.fps = nearest_frame_rate(session_.document.solution()[plan::Slot::Fps].value_or(25));
  s.frames = static_cast<long long>(frames->size());
  s.clip_s = static_cast<double>(s.frames) / s.fps.value();
  const auto &first = frames->front().info().captured, &last = frames->back().info().captured;
  if (!first || !last) return sums ? std::optional(s) : std::nullopt;
  s.interval_s = session_.frames.gathered()->interval_s.value_or(s.interval_s);
  s.field_s = static_cast<double>((*last - *first).count()) / 1000 +
              frames->back().info().shutter_s.value_or(s.interval_s / 2);
  const auto day = std::chrono::floor<std::chrono::days>(*first);
  s.first = at_wall_time(Day{day}, std::chrono::duration_cast<std::chrono::milliseconds>(*first - day),
                         take.place.zone);
  return s;
}

QString Span::differs() const {
  const auto& sums = session_.document.sums();
  if (!sums || !session_.frames.gathered()) return {};
  return QString::fromStdString(advice::plan_differs_words(*sums, *session_.frames.gathered()));
}

Span::Geometry Span::geometry(const Shown& shown) const {
  Geometry g;
  g.right = width() - 30;
  g.start = wall_time(shown.first, session_.document.take().place.zone).seconds_of_day();
  g.field = plan::field_ruler(g.start, shown.field_s);
  if (slim_) {  // right below what was shot of it
    g.film_left = g.field_x(g.start);
    g.film_right = std::max(g.film_left + kLeastFilm, g.field_x(g.start + shown.field_s));
    return g;
  }
  // The film sits in the middle below, a third of the width: long clips take more of it.
  const double wide = (g.right - g.left) * std::clamp(0.16 * std::log10(1 + shown.clip_s * 4), 0.12, 0.42);
  const double middle = g.field_x(g.start + shown.field_s / 2);
  g.film_left = std::clamp(middle - wide / 2, g.left, g.right - wide - 150);
  g.film_right = g.film_left + wide;
  return g;
}

double Span::frame_second(const Shown& shown, long long frame) const {
  const media::Frames frames = session_.frames.list();
  if (shot_ && frame < static_cast<long long>(frames->size())) {
    const auto& first = frames->front().info().captured;
    const auto& here = (*frames)[static_cast<size_t>(frame)].info().captured;
    if (first && here) return static_cast<double>((*here - *first).count()) / 1000;
  }
  if (session_.document.sums()) return session_.document.schedule().at_s(frame);
  return static_cast<double>(frame) * shown.interval_s;
}

long long Span::frame_at(const Shown& shown, double second) const {
  const double interval = std::max(1e-3, shown.interval_s);
  if (shot_ || !session_.document.sums()) return std::llround(second / interval);
  return session_.document.schedule().press_at(second + interval / 2);  // the nearest
}

void Span::remember_sky(const Shown& shown, const Geometry& g) {
  const take::Take& take = session_.document.take();
  if (!take.knows_sky()) {
    sky_ = {};
    return;
  }
  const Instant day = later(shown.first, -g.start);
  if (sky_.from == g.field.from && sky_.to == g.field.to && sky_.day == day && sky_.place == take.place)
    return;
  sky_ = {g.field.from, g.field.to, day, take.place, {}, {}};
  const Instant from = later(day, g.field.from), to = later(day, g.field.to);
  sky_.altitudes = sky::sun_altitudes(take.place, from, to, 160);
  if (g.field.to - g.field.from > 2 * 86400) return;
  const auto ephemeris = sky::ephemeris_for(from, to);
  const auto add = [&](Instant at, const QString& words, bool strong) {
    sky_.marks.push_back({seconds_between(day, at),
                          words + " " + QString::fromStdString(format_clock(at, take.place.zone)), strong});
  };
  const auto sun = [&](double altitude, const QString& down, const QString& up, bool strong) {
    for (const sky::Crossing& c :
         sky::crossings_of(*ephemeris, sky::Body::Sun, altitude, take.place, from, to))
      add(c.at, c.rising ? up : down, strong);
  };
  sun(sky::kSunDown_deg, say_q("sun down"), say_q("sun up"), true);
  for (const sky::Crossing& c : sky::moon_crossings(*ephemeris, take.place, from, to))
    add(c.at, c.rising ? say_q("moon up") : say_q("moon down"), false);
  sun(sky::kBlueLow_deg, say_q("blue until"), say_q("blue from"), false);
  sun(sky::kGoldenHigh_deg, say_q("golden from"), say_q("golden until"), false);
  sun(sky::kAstronomical_deg, say_q("dark"), say_q("first light"), false);
  for (const sky::Darkness& d : sky::darkness(*ephemeris, take.place, from, to, 10))
    add(d.from, say_q("core in the dark from"), false);
}

void Span::paint_sky_marks(QPainter& p, const Geometry& g) {
  const Rows r = rows();
  const Colours& c = colours();
  QColor behind = c.bar;
  behind.setAlphaF(0.85F);
  p.setFont(on_the_axis(word_font(8.5)));
  std::vector<QRectF> taken;
  for (const Sky::Mark& m : sky_.marks) {
    const double x = g.field_x(m.second);
    p.setPen(QPen(m.strong ? c.warning : c.muted, m.strong ? 2 : 1.3));
    p.drawLine(QPointF(x, r.field_top - (m.strong ? 6 : 2)), QPointF(x, r.field_bottom() + 4));
    if (wanted_height() == kSlim) continue;
    QRectF box(x + 4, r.field_bottom() + 4, p.fontMetrics().horizontalAdvance(m.words) + 6, 14);
    if (box.right() > g.right) box.moveRight(x - 4);
    // Words only where there is room; the tick is always there.
    if (box.left() < g.left ||
        std::any_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.intersects(box); }))
      continue;
    taken.push_back(box.adjusted(-4, 0, 4, 0));
    p.fillRect(box, behind);
    p.drawText(box, Qt::AlignCenter, m.words);
  }
}

void Span::paint_names(QPainter& p) {
  const Rows r = rows();
  const Colours& c = colours();
  p.setPen(c.field);
  p.setFont(on_the_axis(word_font(9.5, QFont::DemiBold)));
  p.drawText(QPointF(18, r.field_bottom() - (slim_ ? 0 : 11)), say_q("Field"));
  p.setPen(c.film);
  p.drawText(QPointF(18, r.film_bottom() + (slim_ ? 4 : 0)), say_q("Film"));
  p.setPen(c.muted);
  if (wanted_height() == kSlim) return;
  p.setFont(on_the_axis(word_font(8)));
  const take::Take& take = session_.document.take();
  p.drawText(QRectF(18, 28, 72, 15),
             p.fontMetrics().elidedText(QString::fromStdString(take.place.name), Qt::ElideRight, 72));
}

/// The field clock: the sky's light along it, and the take on it.
void Span::paint_field(QPainter& p, const Shown& sums, const Geometry& g) {
  const Rows r = rows();
  const Colours& c = colours();
  const double wide = g.right - g.left;
  const size_t n = sky_.altitudes.size();
  QLinearGradient sky(g.left, 0, g.right, 0);
  for (size_t i = 0; i < n; i += 4)
    sky.setColorAt(static_cast<double>(i) / static_cast<double>(n - 1), sky_tint(sky_.altitudes[i]));
  // Where the place is not set, nothing is known of the sky.
  p.fillRect(QRectF(g.left, r.field_top, wide, r.field_height), n < 2 ? QBrush(c.line) : QBrush(sky));
  p.setFont(on_the_axis(figure_font(8.5)));
  for (const double t : g.field.ticks()) {
    const double x = g.field_x(t);
    p.setPen(QPen(c.field, 1.2));
    p.drawLine(QPointF(x, r.field_top - 6), QPointF(x, r.field_bottom()));
    const take::Take& take = session_.document.take();
    // Over days the clock says nothing: days do.
    const QString label =
        g.field.tick >= 86400 && take.knows_start()
            ? QString::fromStdString(day_words(day_of(later(sums.first, t - g.start), take.place.zone)))
            : clock_words(t, g.field.tick < 60);
    const double w = p.fontMetrics().horizontalAdvance(label);
    p.drawText(QPointF(std::clamp(x - w / 2, g.left - 10, g.right + 26 - w), r.field_words), label);
  }
  // The take on it.
  const double x0 = g.field_x(g.start), x1 = g.field_x(g.start + sums.field_s);
  p.setPen(QPen(c.field, 2));
  p.setBrush(Qt::NoBrush);
  p.drawRect(QRectF(x0, r.field_top - 1, std::max(2.0, x1 - x0), r.field_height + 2));
}

double Span::film_x(const Shown& sums, const Geometry& g, long long frame) const {
  const double share = (static_cast<double>(frame) + 0.5) / static_cast<double>(std::max(1LL, sums.frames));
  return g.film_left + share * (g.film_right - g.film_left);
}

double Span::field_at(const Shown& sums, const Geometry& g, long long frame) const {
  return std::min(g.field_x(g.start + sums.field_s), g.field_x(g.start + frame_second(sums, frame)));
}

/// The frames between the clocks, and holes where some are missing.
void Span::paint_threads(QPainter& p, const Shown& sums, const Geometry& g) {
  const Rows r = rows();
  const Colours& c = colours();
  int index = 0;
  const int threads = wanted_height() == kSlim ? 0 : kThreads;
  for (const long long frame : plan::threads(std::max(1LL, sums.frames), threads)) {
    QColor thread = c.film;
    const bool strong = index++ % kEveryStrong == 0;
    thread.setAlphaF(strong ? 0.75F : 0.22F);
    p.setPen(QPen(thread, 1));
    p.drawLine(QPointF(field_at(sums, g, frame), r.field_bottom() + 2),
               QPointF(film_x(sums, g, frame), r.film_top));
  }
  if (!shot_ || !session_.frames.gathered()) return;
  for (const ingest::Missing& m : session_.frames.gathered()->missing) {
    const auto after = static_cast<long long>(m.after);
    const double x = field_at(sums, g, after), film = film_x(sums, g, after);
    p.setPen(QPen(c.warning, 2));
    p.drawLine(QPointF(x, r.field_top - 3), QPointF(x, r.field_bottom() + 5));
    p.drawLine(QPointF(film, r.film_top - 3), QPointF(film, r.film_bottom() + 3));
  }
}

void Span::paint_film(QPainter& p, const Shown& sums, const Geometry& g) {
  const Rows r = rows();
  const Colours& c = colours();
  p.setFont(on_the_axis(figure_font(8.5)));
  p.fillRect(QRectF(g.film_left, r.film_top, g.film_right - g.film_left, r.film_height), c.film_fill);
  const plan::Ruler film = plan::film_ruler(sums.clip_s, static_cast<int>((g.film_right - g.film_left) / 46));
  p.setPen(c.film);
  double written = -1e9;  // where the last label ended
  for (const double t : film.ticks()) {
    const double x = g.film_left + t / sums.clip_s * (g.film_right - g.film_left);
    p.drawLine(QPointF(x, r.film_bottom()), QPointF(x, r.film_bottom() + (slim_ ? 3 : 4)));
    const QString label = QString::fromStdString(format_length(t, 1));
    const double half = p.fontMetrics().horizontalAdvance(label) / 2.0;
    if (x - half < written + 6) continue;
    written = x + half;
    p.drawText(QPointF(x - half, r.film_bottom() + (slim_ ? 13 : 15)), label);
  }
}

void Span::paint_speed(QPainter& p, const Shown& sums, const Geometry& g) {
  const Rows r = rows();
  const Colours& c = colours();
  p.setPen(c.film);
  const double speed_up = sums.interval_s * sums.fps.value();
  p.setFont(on_the_axis(word_font(9.5)));
  const QString faster =
      QString::fromStdString(plan::format_slot(plan::Slot::SpeedUp, speed_up)) + say_q(" faster");
  const double at = std::min(g.film_right + 18, width() - 12.0 - p.fontMetrics().horizontalAdvance(faster));
  p.drawText(QPointF(at, slim_ ? r.film_bottom() + 13 : r.film_bottom()), faster);
  if (wanted_height() == kSlim) return;
  if (const QString other = differs(); !other.isEmpty()) {
    p.setPen(c.warning);
    p.setFont(on_the_axis(word_font(8.5)));
    const QRectF room(at, r.film_top + 12, width() - at - 6, 15);
    p.drawText(room, Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(other, Qt::ElideRight, static_cast<int>(room.width())));
    p.setPen(c.film);
  }
}

void Span::paint_here(QPainter& p, const Shown& sums, const Geometry& g) {
  const Rows r = rows();
  const long long at = session_.run.landed() && session_.run.active()
                           ? std::max(0LL, session_.run.landed()->index)
                           : session_.playhead.at();
  p.setPen(QPen(colours().here, 2.2));
  const double fx = field_at(sums, g, at), mx = film_x(sums, g, at);
  p.drawLine(QPointF(fx, r.field_top - 7), QPointF(fx, r.field_bottom() + 2));
  p.drawLine(QPointF(fx, r.field_bottom() + 2), QPointF(mx, r.film_top));
  p.drawLine(QPointF(mx, r.film_top), QPointF(mx, r.film_bottom() + 4));
}

/// Clicks of the ramp on the field clock.
void Span::paint_clicks(QPainter& p, const Shown& sums, const Geometry& g) {
  const Rows r = rows();
  constexpr long long kMost = 200000;
  const ramp::Ramp* ramp = sums.frames <= kMost && !shot_ ? session_.document.ramp() : nullptr;
  if (!ramp) return;
  p.setPen(QPen(colours().ink, 1));
  for (const ramp::RampStep& step : ramp->steps) {
    const double x = g.field_x(g.start + session_.document.schedule().at_s(step.click.frame));
    p.drawLine(QPointF(x, r.field_bottom() - 3), QPointF(x, r.field_bottom()));
  }
}

void Span::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const Colours& c = colours();
  p.fillRect(rect(), c.bar);
  p.setPen(c.line);
  p.drawLine(0, height() - 1, width(), height() - 1);
  paint_names(p);
  const std::optional<Shown> sums = shown();
  if (!sums) {
    p.setFont(on_the_axis(word_font(10)));
    p.drawText(rect().adjusted(96, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft,
               say_q("The two clocks appear once the sentence says enough."));
    return;
  }
  if (wanted_height() == kHeight)
    p.drawText(QPointF(18, rows().film_top + 22), QString::fromStdString(frame_rate_words(sums->fps)));
  const Geometry g = geometry(*sums);
  remember_sky(*sums, g);
  paint_field(p, *sums, g);
  paint_threads(p, *sums, g);
  paint_film(p, *sums, g);
  paint_speed(p, *sums, g);
  paint_here(p, *sums, g);
  paint_sky_marks(p, g);
  paint_clicks(p, *sums, g);
}

Span::Drag Span::clock_at(double y) const {
  const Rows r = rows();
  return y > (r.field_top + r.film_top) / 2 + (slim_ ? 3 : 8) ? Drag::Film : Drag::Field;
}

void Span::scrub_to(double x, Drag clock) {
  const std::optional<Shown> shown = this->shown();
  if (!shown) return;
  const Geometry g = geometry(*shown);
  if (clock == Drag::Film) {
    session_.playhead.set(static_cast<long long>((x - g.film_left) / (g.film_right - g.film_left) *
                                                 static_cast<double>(shown->frames)));
    return;
  }
  const double second =
      g.field.from + (x - g.left) / (g.right - g.left) * (g.field.to - g.field.from) - g.start;
  session_.playhead.set(frame_at(*shown, second));
}

void Span::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (shot_ && event->position().x() < kNames) return emit names_pressed();
  pressed_ = clock_at(event->position().y());
  scrub_to(event->position().x(), pressed_);
}

void Span::mouseMoveEvent(QMouseEvent* event) {
  if (pressed_ == Drag::None || !(event->buttons() & Qt::LeftButton)) return;
  if (drag_ == Drag::None) {
    drag_ = pressed_;
    emit height_changed();
  }
  scrub_to(event->position().x(), drag_);
}

void Span::mouseReleaseEvent(QMouseEvent*) {
  const bool dragged = drag_ != Drag::None;
  pressed_ = drag_ = Drag::None;
  if (dragged) emit height_changed();
}

SpanPlace::SpanPlace(Session& session, QWidget* parent) : QWidget(parent), span_(new Span(session, parent)) {
  setFixedHeight(span_->kept_height());
  connect(span_, &Span::height_changed, this, &SpanPlace::lay_out);
}

void SpanPlace::lay_out() {
  setFixedHeight(span_->kept_height());
  span_->setGeometry(x(), y(), width(), span_->wanted_height());
  span_->raise();
  span_->update();
}

void SpanPlace::resizeEvent(QResizeEvent*) {
  lay_out();
}

void SpanPlace::moveEvent(QMoveEvent*) {
  lay_out();
}

}  // namespace askcount::app

#include "moc_span.cpp"
