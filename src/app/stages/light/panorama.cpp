// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/light/panorama.h"

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
#include "forecast/place_picture.h"
#include "plan/rulers.h"
#include "skyline/overlay.h"

namespace askcount::app {
namespace {

constexpr double kFoot = 34;  // below the horizon: degrees and names of directions
constexpr std::chrono::hours kAround{3};

QString compass(double azimuth) {
  const QString names[] = {say_q("N"), say_q("NE|compass"), say_q("E|compass"), say_q("SE|compass"),
                           say_q("S"), say_q("SW|compass"), say_q("W|compass"), say_q("NW|compass")};
  return names[static_cast<int>(std::lround(azimuth / 45)) % 8];
}

}  // namespace

Panorama::Panorama(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("panorama");
  say_keys();
  setAccessibleName(say_q("What crosses the frame; drag the frame or use the arrows to aim"));
  setFocusPolicy(Qt::StrongFocus);
  setMinimumHeight(150);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setCursor(Qt::SizeAllCursor);
  connect(&session.document, &Document::changed, this, qOverload<>(&QWidget::update));
  connect(&session.outlook, &OutlookPicture::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
}

void Panorama::aim_end(bool end) {
  end_ = end;
  update();
}

void Panorama::mark_next() {
  marks_ = has_picture();
  setCursor(marks_ ? Qt::CrossCursor : Qt::SizeAllCursor);
}

bool Panorama::has_picture() const {
  return session_.outlook.photograph() && !session_.document.take().light.outlook.picture.empty();
}

bool Panorama::is_hidden(const sky::Direction& d) const {
  return d.altitude_deg < sky::horizon_at(session_.document.take().light.horizon, d.azimuth_deg);
}

void Panorama::draw_pole(QPainter& p) {
  const sky::Direction pole = skyline::pole_of(session_.document.take().place);
  const QPointF at = place(pole.azimuth_deg, pole.altitude_deg);
  if (!rect().contains(at.toPoint())) return;
  p.setPen(QPen(ink_, 1.4));
  p.drawLine(at - QPointF(7, 0), at + QPointF(7, 0));
  p.drawLine(at - QPointF(0, 7), at + QPointF(0, 7));
  p.setFont(word_font(8.5));
  p.drawText(at + QPointF(10, -4), say_q("pole"));
}

void Panorama::draw_behind(QPainter& p) {
  const take::Take& t = session_.document.take();
  const QString names[] = {say_q("sun"), say_q("moon"), say_q("core")};
  p.setFont(word_font(8.5, QFont::DemiBold));
  for (const sky::Behind& b : session_.document.behind()) {
    const QPointF at = place(b.where.azimuth_deg, b.where.altitude_deg);
    if (!rect().contains(at.toPoint())) continue;
    p.setPen(QPen(colours().ink, 1.2));
    p.setBrush(colours().card);
    p.drawEllipse(at, 4, 4);
    const QString words = QString("%1 %2 %3")
                              .arg(names[static_cast<int>(b.body)], b.goes ? say_q("behind") : say_q("out"),
                                   to_q(format_clock(b.at, t.place.zone)));
    const double wide = p.fontMetrics().horizontalAdvance(words);
    for (const QPointF by : {QPointF(8, 14), QPointF(-8 - wide, 14), QPointF(8, 28), QPointF(-8 - wide, 28),
                             QPointF(8, -6), QPointF(-8 - wide, -6)}) {
      const QRectF box(at + by - QPointF(0, 11), QSizeF(wide, 14));
      if (box.bottom() > height() - kFoot ||  // where the directions stand
          std::any_of(taken_.begin(), taken_.end(), [&](const QRectF& r) { return r.intersects(box); }))
        continue;
      taken_.push_back(box);
      const bool on_land = by.y() > 0;
      p.setPen(current_lighting() == Lighting::Lamp ? colours().ink
               : on_land                            ? QColor(0xEC, 0xEF, 0xF0)
                                                    : ink_);
      p.drawText(at + by, words);
      break;
    }
  }
}

sky::Panorama Panorama::shown() const {
  if (held_) return *held_;
  const take::Take& t = session_.document.take();
  return sky::panorama_for(t.light.move, forecast::optics_of(t), width(), height(), kFoot);
}

QPointF Panorama::place(double azimuth, double altitude) const {
  const sky::Panorama p = shown();
  return {p.x_of(azimuth), p.y_of(altitude)};
}

sky::Direction Panorama::direction(QPointF at) const {
  return shown().direction_at(at.x(), at.y());
}

QColor Panorama::ink_of(sky::Body body) const {
  const Colours& c = colours();
  return body == sky::Body::Sun    ? (current_lighting() == Lighting::Lamp ? c.ink : c.warning)
         : body == sky::Body::Moon ? c.muted
                                   : c.film;
}

/// Whether a word has room there; it is taken then.
bool Panorama::take_room(const QRectF& box) {
  if (std::any_of(taken_.begin(), taken_.end(), [&](const QRectF& r) { return r.intersects(box); }))
    return false;
  taken_.push_back(box);
  return true;
}

/// One stroke, so that dots stay dots; it breaks where it leaves one side and comes in at the other.
void Panorama::draw_path(QPainter& p, const sky::Ephemeris& sky, sky::Body body, Instant from, Instant to) {
  const sky::Place& place_there = session_.document.take().place;
  p.setBrush(Qt::NoBrush);
  QPolygonF stroke;
  for (int i = 0; i <= 90; ++i) {
    const sky::Direction d = sky.at(body, from + (to - from) * i / 90, place_there);
    if (has_picture() && is_hidden(d)) {
      p.drawPolyline(stroke);
      stroke.clear();
      continue;
    }
    const QPointF now = place(d.azimuth_deg, d.altitude_deg);
    if (!stroke.isEmpty() && std::abs(now.x() - stroke.back().x()) >= width() / 2.0) {
      p.drawPolyline(stroke);
      stroke.clear();
    }
    stroke << now;
  }
  p.drawPolyline(stroke);
}

/// Times along a track, where there is room: those of the sun stand, those of the others give way.
void Panorama::draw_times(QPainter& p, const sky::Ephemeris& sky, sky::Body body, Instant start,
                          Instant end) {
  const Colours& c = colours();
  const take::Take& t = session_.document.take();
  const double step = plan::usual_step(std::max(600.0, session_.document.sums()->field_s), 5);
  const double day = wall_time(start, t.place.zone).seconds_of_day();
  p.setFont(figure_font(8));
  QPointF labelled(-1000, -1000);
  for (double s = std::ceil(day / step) * step; s <= day + seconds_between(start, end); s += step) {
    const Instant i = later(start, s - day);
    const sky::Direction d = sky.at(body, i, t.place);
    const QPointF q = place(d.azimuth_deg, d.altitude_deg);
    if (!rect().contains(q.toPoint())) continue;
    if (has_picture() && is_hidden(d)) continue;  // by its hills and roofs
    p.setPen(QPen(c.ink, 1));
    p.setBrush(body == sky::Body::Moon ? c.card : body == sky::Body::Sun ? c.answer : c.film_fill);
    p.drawEllipse(q, body == sky::Body::Core ? 3.5 : 5, body == sky::Body::Core ? 3.5 : 5);
    if (std::hypot(q.x() - labelled.x(), (q.y() - labelled.y()) * 3) < 48)
      continue;  // no room for another time
    labelled = q;
    const QString clock = to_q(format_clock(i, t.place.zone));
    const QRectF box(q + QPointF(9, -8), QSizeF(p.fontMetrics().horizontalAdvance(clock), 14));
    if (!take_room(box)) continue;
    p.setPen(q.y() > place(0, 0).y() ? c.card : ink_);
    p.drawText(q + QPointF(9, 4), clock);
  }
}

/// Its name beside the ring, on whichever side no other word stands.
void Panorama::draw_name(QPainter& p, sky::Body body, QPointF q) {
  const QString names[] = {say_q("sun"), say_q("moon"), say_q("core")};
  p.setFont(word_font(8.5, QFont::DemiBold));
  p.setPen(ink_of(body));
  const QString name = names[static_cast<int>(body)];
  const double w = p.fontMetrics().horizontalAdvance(name);
  for (const QPointF at :
       {q + QPointF(-10 - w, -8), q + QPointF(10, -10), q + QPointF(-10 - w, 16), q + QPointF(10, 18)}) {
    const QRectF box(at - QPointF(0, 11), QSizeF(w, 14));
    if (!take_room(box)) continue;
    p.drawText(at, name);
    break;
  }
}

void Panorama::draw_track(QPainter& p, const sky::Ephemeris& sky, sky::Body body) {
  const take::Take& t = session_.document.take();
  const plan::Sums& sums = *session_.document.sums();
  const Instant start = t.start, end = later(start, std::min(sums.field_s, 2 * 86400.0));
  const auto pen = [&](Qt::PenStyle style, double wide) {
    p.setPen(QPen(ink_of(body), wide, style, Qt::RoundCap));
  };
  pen(Qt::DotLine, 1.2);
  draw_path(p, sky, body, start - kAround, start);
  draw_path(p, sky, body, end, end + kAround);
  pen(body == sky::Body::Sun ? Qt::SolidLine : Qt::DashLine, 2.4);
  draw_path(p, sky, body, start, end);
  draw_times(p, sky, body, start, end);
  const Instant here = session_.document.schedule().at(session_.playhead.at());
  if (here > end + kAround) return;  // further on than is drawn
  const sky::Direction d = sky.at(body, here, t.place);
  const QPointF q = place(d.azimuth_deg, d.altitude_deg);
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(ink_, 2));
  p.drawEllipse(q, 8, 8);
  draw_name(p, body, q);
}

void Panorama::draw_band(QPainter& p, const std::vector<sky::Direction>& band) {
  constexpr double kWide_deg = 14;
  QColor glow = colours().film_fill;
  for (size_t i = 0; i + 1 < band.size(); ++i) {
    const QPointF a = place(band[i].azimuth_deg, band[i].altitude_deg),
                  b = place(band[i + 1].azimuth_deg, band[i + 1].altitude_deg);
    if (std::abs(a.x() - b.x()) > width() / 3.0) continue;  // round the back
    if (has_picture() && is_hidden(band[i])) continue;
    const double from_core = 5.0 * static_cast<double>(std::min(i, band.size() - 1 - i));
    glow.setAlphaF(static_cast<float>(0.10 + 0.30 * std::exp(-from_core / 30)));
    p.setPen(QPen(glow, kWide_deg * shown().per_degree, Qt::SolidLine, Qt::FlatCap));
    p.drawLine(a, b);
  }
}

void Panorama::draw_frame(QPainter& p, const sky::Aim& aim, bool strong) {
  const sky::Optics o = forecast::optics_of(session_.document.take());
  const auto outline = [&](double across, double down) {
    QPolygonF edge;
    const auto side = [&](double x0, double y0, double x1, double y1) {
      for (int i = 0; i < 24; ++i) {
        const sky::Direction d =
            sky::direction_of({x0 + (x1 - x0) * i / 24, y0 + (y1 - y0) * i / 24}, aim, o);
        edge << place(d.azimuth_deg, d.altitude_deg);
      }
    };
    side(-across, -down, across, -down);
    side(across, -down, across, down);
    side(across, down, -across, down);
    side(-across, down, -across, -down);
    return edge;
  };
  QColor ink = ink_;
  ink.setAlphaF(strong ? 1.0F : 0.45F);
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(ink, strong ? 2.2 : 1.2));
  p.drawPolygon(outline(0.5, 0.5));
  p.setPen(QPen(ink, 1.3, Qt::DotLine));
  p.drawPolygon(outline(o.film_across() / 2, o.film_down() / 2));
  if (!strong) return;
  p.setPen(ink_);
  p.setFont(word_font(8.5));
  const sky::Direction corner = sky::direction_of({-0.5, 0.5}, aim, o),
                       crop = sky::direction_of({-o.film_across() / 2, o.film_down() / 2}, aim, o);
  p.drawText(place(corner.azimuth_deg, corner.altitude_deg) + QPointF(6, 15), say_q("sensor"));
  const QPointF at = place(crop.azimuth_deg, crop.altitude_deg);
  const double lower = std::max(15.0, place(corner.azimuth_deg, corner.altitude_deg).y() + 29 - at.y());
  if (o.film_down() < 0.99) p.drawText(at + QPointF(6, lower), say_q("film"));
}

/// The land below the horizon, as the person raised it.
QPainterPath Panorama::land() const {
  const take::Take& t = session_.document.take();
  QPainterPath land;
  land.moveTo(0, height());
  for (int x = 0; x <= width() + 8; x += 8) {
    const double azimuth = direction({static_cast<double>(x), 0}).azimuth_deg;
    land.lineTo(x, place(azimuth, sky::horizon_at(t.light.horizon, azimuth)).y());
  }
  land.lineTo(width(), height());
  return land;
}

void Panorama::draw_directions(QPainter& p) {
  const Colours& c = colours();
  p.setFont(figure_font(8.5));
  const sky::Panorama s = shown();
  const double step = s.across_deg() > 160 ? 45 : s.across_deg() > 70 ? 20 : s.across_deg() > 30 ? 10 : 5;
  for (double a = std::ceil((s.middle_deg - s.across_deg() / 2) / step) * step;
       a <= s.middle_deg + s.across_deg() / 2; a += step) {
    const double az = std::fmod(a + 720, 360);
    const double x = place(az, 0).x();
    p.setPen(QPen(c.card, 1.2));
    p.drawLine(QPointF(x, height() - kFoot + 2), QPointF(x, height() - kFoot + 8));
    const QString label = QString("%1°").arg(std::lround(az) % 360);
    p.setPen(current_lighting() == Lighting::Lamp ? c.ink : QColor(0xEC, 0xEF, 0xF0));
    p.drawText(QRectF(x - 30, height() - kFoot + 8, 60, 13), Qt::AlignCenter, label);
    if (std::fmod(az, 45) < 0.01)
      p.drawText(QRectF(x - 30, height() - kFoot + 20, 60, 13), Qt::AlignCenter, compass(az));
  }
}

void Panorama::draw_frames(QPainter& p) {
  const take::Take& t = session_.document.take();
  if (t.light.head_moves()) {
    draw_frame(p, t.light.move.from, false);
    draw_frame(p, t.light.move.to, false);
  }
  const plan::Schedule& schedule = session_.document.schedule();
  const double whole = schedule.at_s(schedule.shots() - 1);
  const double share = whole > 0 ? schedule.at_s(session_.playhead.at()) / whole : 0;
  draw_frame(p, drag_ == Drag::Frame && end_ ? t.light.move.to : sky::aim_at(t.light.move, share), true);
}

void Panorama::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setClipRect(rect());
  const Colours& c = colours();
  const take::Take& t = session_.document.take();
  if (!session_.document.sums() || !t.knows_sky()) {
    p.fillRect(rect(), c.scene);
    p.setPen(c.muted);
    p.setFont(word_font(10));
    if (!t.knows_sky())
      p.drawText(rect(), Qt::AlignCenter,
                 say_q("Say above where and when: sun, moon and galaxy are drawn here."));
    return;
  }
  const Instant start = t.start, end = later(start, std::min(session_.document.sums()->field_s, 2 * 86400.0));
  const auto ephemeris = sky::ephemeris_for(start - kAround, end + kAround);
  const Instant here = session_.document.schedule().at(session_.playhead.at());
  const double sun = here <= end + kAround ? ephemeris->at(sky::Body::Sun, here, t.place).altitude_deg : 10;
  // Dark words on a light sky, light ones on a dark one.
  ink_ = current_lighting() == Lighting::Lamp ? c.ink
         : sun < -4                           ? QColor(0xE6, 0xEA, 0xF0)
                                              : QColor(0x14, 0x23, 0x2A);
  QLinearGradient air(0, 0, 0, place(0, 0).y());
  air.setColorAt(0, sky_tint(sun + 8));
  air.setColorAt(1, sky_tint(sun));
  p.fillRect(rect(), air);
  const QPainterPath ground_path = land();
  QColor ground = c.land;
  ground.setAlphaF(0.82F);
  if (has_picture()) {  // its own hills and roofs are the land, and hide what is behind them
    p.fillPath(ground_path, ground);
    p.drawImage(0, 0, shown_picture(session_.outlook.laid(forecast::view_of(t.light.outlook), shown())));
  }
  if (sun < -6 && here <= end + kAround) draw_band(p, ephemeris->band(here, t.place));
  taken_.clear();
  for (const sky::Body body : {sky::Body::Sun, sky::Body::Core, sky::Body::Moon})
    draw_track(p, *ephemeris, body);
  if (!has_picture()) {
    p.fillPath(ground_path, ground);
  } else {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(current_lighting() == Lighting::Lamp ? c.ink : c.answer, 1.4));
    p.drawPath(ground_path);
  }
  draw_pole(p);
  draw_behind(p);
  draw_directions(p);
  draw_frames(p);
  if (hasFocus()) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(c.field, 2));
    p.drawRect(rect().adjusted(1, 1, -1, -1));
  }
}

void Panorama::turn(double bearing, double tilt, double roll) {
  session_.document.edit([&](take::Take& t) { sky::turn(t.light.move, end_, bearing, tilt, roll); }, "aim");
}

void Panorama::raise(double bearing, double altitude) {
  session_.document.edit([&](take::Take& t) { sky::raise(t.light.horizon, bearing, altitude); }, "horizon");
}

void Panorama::mousePressEvent(QMouseEvent* event) {
  if (!session_.document.sums()) return;
  last_ = event->position();
  if (marks_) {
    marks_ = false;
    setCursor(Qt::SizeAllCursor);
    const skyline::View view = forecast::view_of(session_.document.take().light.outlook);
    if (const auto at = sky::project(direction(last_), view.aim, view.optics);
        at && sky::inside(*at, view.optics, true))
      emit marked(at->x, at->y);
    return;
  }
  held_ = shown();
  const sky::Direction d = direction(last_);
  const QPointF edge =
      place(d.azimuth_deg, sky::horizon_at(session_.document.take().light.horizon, d.azimuth_deg));
  drag_ = event->modifiers() & Qt::ControlModifier && has_picture() ? Drag::Picture
          : std::abs(edge.y() - last_.y()) < 6                      ? Drag::Horizon
                                                                    : Drag::Frame;
}

void Panorama::mouseMoveEvent(QMouseEvent* event) {
  if (drag_ == Drag::None || !(event->buttons() & Qt::LeftButton)) return;
  const QPointF by = event->position() - last_;
  last_ = event->position();
  const double per = shown().per_degree;
  if (drag_ == Drag::Frame) return turn(by.x() / per, -by.y() / per, 0);
  if (drag_ == Drag::Picture)
    return session_.document.edit(
        [&](take::Take& t) {
          sky::Move still{t.light.outlook.aim, t.light.outlook.aim, false};
          sky::turn(still, false, by.x() / per, -by.y() / per, 0);
          t.light.outlook.aim = still.from;
          t.light.outlook.by = take::Outlook::By::Hand;
        },
        "picture");
  const sky::Direction d = direction(last_);
  raise(d.azimuth_deg, d.altitude_deg);
}

void Panorama::mouseReleaseEvent(QMouseEvent*) {
  drag_ = Drag::None;
  held_.reset();
  session_.document.end_drag();
  update();
}

void Panorama::say_keys() {
  const auto add = [this](Qt::Key key, const QString& words, std::function<void(double)> deed) {
    for (const bool far : {false, true})
      keys_.add(
          key, far ? QString() : words,
          [this, deed, far] {
            deed(far ? 5 : 1);
            session_.document.end_drag();
          },
          far ? Qt::KeyboardModifiers(Qt::ShiftModifier) : Qt::KeyboardModifiers());
  };
  const auto raise_here = [this](double by) {
    const take::Take& take = session_.document.take();
    const double bearing = (end_ ? take.light.move.to : take.light.move.from).bearing_deg;
    raise(bearing, sky::horizon_at(take.light.horizon, std::fmod(std::round(bearing / 5) * 5, 360)) + by);
    session_.document.end_drag();
  };
  add(Qt::Key_Left, say_q("Aim 1° to the left; with Shift, 5°"), [this](double by) { turn(-by, 0, 0); });
  add(Qt::Key_Right, say_q("Aim 1° to the right"), [this](double by) { turn(by, 0, 0); });
  add(Qt::Key_Up, say_q("Aim 1° higher"), [this](double by) { turn(0, by, 0); });
  add(Qt::Key_Down, say_q("Aim 1° lower"), [this](double by) { turn(0, -by, 0); });
  add(Qt::Key_BracketLeft, say_q("Roll 1° to the left"), [this](double by) { turn(0, 0, -by); });
  add(Qt::Key_BracketRight, say_q("Roll 1° to the right"), [this](double by) { turn(0, 0, by); });
  keys_.add(Qt::Key_H, say_q("The skyline here 1° higher"), [raise_here] { raise_here(1); });
  keys_.add(
      Qt::Key_H, say_q("The skyline here 1° lower"), [raise_here] { raise_here(-1); }, Qt::ShiftModifier);
}

void Panorama::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

}  // namespace askcount::app

#include "moc_panorama.cpp"
