// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/film_lanes.h"

#include <algorithm>
#include <cmath>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>

#include "app/stages/film_axis.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"
#include "base/number.h"
#include "base/units.h"
#include "render/anchors.h"

namespace askcount::app {
namespace {

constexpr const char* kTitles[] = {to_say("Speed"), to_say("View"), to_say("Trail"),
                                   to_say("Still"), to_say("Fade"), to_say("Sound")};
constexpr double kRuler = 20, kLeastLane = 15, kLane = 26, kMostLane = 40;
constexpr double kDragForAll = 120;  // pixels up or down that go through a lane's range
constexpr int kCurve = 4;            // pixels from point to point of a lane's curve
constexpr double kHold = 7;          // pixels from an anchor that take hold of it
constexpr double kSpeedOctaves = 4;  // a lane's range of speeds, to either side of as shot
constexpr double kNarrowest = 0.05;  // the narrowest view a lane shows
constexpr size_t kLevels = 400;      // pieces of the sound

double share_of_width(double width) {
  return 1 - std::log(std::clamp(width, kNarrowest, 1.0)) / std::log(kNarrowest);
}

QString seconds(double s) {
  return QString::fromStdString(format_number(s, s < 10 ? 1 : 0)) + " s";
}

}  // namespace

FilmLanes::FilmLanes(Session& session, PreviewPlayer& player, QWidget* parent)
    : QWidget(parent), session_(session), player_(player) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
  setObjectName("film lanes");
  say_keys();
  setAccessibleName(say_q("The film over its time: speed, view, trail, stillness, fades and sound"));
  connect(&player, &PreviewPlayer::moved, this, qOverload<>(&QWidget::update));
  connect(&session.preview, &Preview::changed, this, [this] {
    follow_sound();
    update();
  });
  connect(&session.way, &CameraWay::changed, this, qOverload<>(&QWidget::update));
}

QSize FilmLanes::sizeHint() const {
  return {900, static_cast<int>(kLane * static_cast<double>(shown_.size()) + kRuler)};
}

QSize FilmLanes::minimumSizeHint() const {
  return {300, static_cast<int>(kLeastLane * static_cast<double>(shown_.size()) + kRuler)};
}

void FilmLanes::show_lanes(const std::vector<int>& lanes) {
  if (lanes == shown_) return;
  shown_ = lanes;
  setFocusPolicy(lanes.empty() ? Qt::NoFocus : Qt::StrongFocus);
  if (!shown_.empty() && std::find(shown_.begin(), shown_.end(), chosen_) == shown_.end())
    chosen_ = shown_.front();
  updateGeometry();
  update();
}

double FilmLanes::tick_s() const {
  const auto of = session_.preview.now();
  return of ? 1 / of->order.fps.value() : 0.04;
}

double FilmLanes::length_s() const {
  const auto of = session_.preview.now();
  return of ? static_cast<double>(of->plan->timeline().frames()) * tick_s() : 0;
}

double FilmLanes::now_s() const {
  return static_cast<double>(player_.frame()) * tick_s();
}

QRectF FilmLanes::lane_rect(int lane) const {
  const auto at = std::find(shown_.begin(), shown_.end(), lane);
  if (at == shown_.end()) return {};
  const double height = std::min(kMostLane, (this->height() - kRuler) / static_cast<double>(shown_.size()));
  return {kAxisLeft, static_cast<double>(at - shown_.begin()) * height, width() - kAxisLeft - kAxisRight,
          height - 2};
}

double FilmLanes::x_of(double film_s) const {
  return kAxisLeft + film_s / std::max(1e-6, length_s()) * (width() - kAxisLeft - kAxisRight);
}

double FilmLanes::s_at(double x) const {
  return std::clamp((x - kAxisLeft) / (width() - kAxisLeft - kAxisRight), 0.0, 1.0) * length_s();
}

int FilmLanes::lane_at(double y) const {
  for (const int lane : shown_)
    if (const QRectF place = lane_rect(lane); y >= place.top() && y < place.bottom() + 2) return lane;
  return -1;
}

double FilmLanes::share_at(int lane, double film_s) const {
  const take::FilmWish& film = session_.films.wish();
  const auto of = session_.preview.now();
  switch (lane) {
    case Speed:
      return std::clamp((std::log2(render::Timeline::speed_at(film.choice.speed, film_s)) + kSpeedOctaves) /
                            (2 * kSpeedOctaves),
                        0.0, 1.0);
    case View:
      return of ? share_of_width(render::view_at(film.views, film_s, of->frame, film.size).width) : 1;
    case Trail:
      if (film.choice.bright != 0) return 1;
      return static_cast<double>(film.choice.trail - 1) / static_cast<double>(render::kLongestTrail - 1);
    case Fade: {
      double fade = 1;
      if (film.fade_in_s > 0) fade = std::min(fade, film_s / film.fade_in_s);
      if (film.fade_out_s > 0) fade = std::min(fade, (length_s() - film_s) / film.fade_out_s);
      return std::clamp(fade, 0.0, 1.0);
    }
    default:
      return 0;
  }
}

double FilmLanes::value_now(int lane) const {
  const take::FilmWish& film = session_.films.wish();
  const auto of = session_.preview.now();
  if (lane == Speed) return render::Timeline::speed_at(film.choice.speed, now_s());
  if (lane == View) return of ? 100 * render::view_at(film.views, now_s(), of->frame, film.size).width : 100;
  if (lane == Trail) return static_cast<double>(film.choice.trail);
  return now_s() < length_s() / 2 ? film.fade_in_s : film.fade_out_s;
}

QString FilmLanes::words_of(int lane) const {
  const take::FilmWish& film = session_.films.wish();
  switch (lane) {
    case Speed: {
      const double times = value_now(Speed);
      return times == 1 ? say_q("as shot")
                        : QString::fromUtf8("× ") + QString::fromStdString(format_number(times, 2));
    }
    case View:
      return say_q("%1 % of the width").arg(QString::fromStdString(format_number(value_now(View), 0)));
    case Trail:
      if (film.choice.bright != 0) return say_q("what is brightest stays");
      return film.choice.trail == 1
                 ? say_q("as shot")
                 : QString::fromStdString(counted(film.choice.trail, "{} frame", "{} frames"));
    case Still: {
      const auto of = session_.preview.now();
      if (film.steady == motion::Mode::None) return say_q("as the camera stood");
      if (!of || of->steadied.corrections.empty()) return say_q("being measured");
      if (of->steadied.jitter_after >= of->steadied.jitter_before)
        return say_q("it stood still: %1 px")
            .arg(QString::fromStdString(format_number(of->steadied.jitter_before * of->frame.width, 2)));
      return say_q("%1 px left of %2")
          .arg(QString::fromStdString(format_number(of->steadied.jitter_after * of->frame.width, 2)),
               QString::fromStdString(format_number(of->steadied.jitter_before * of->frame.width, 2)));
    }
    case Fade:
      if (film.fade_in_s == 0 && film.fade_out_s == 0) return say_q("none|fades and sound");
      return say_q("in %1, out %2").arg(seconds(film.fade_in_s), seconds(film.fade_out_s));
    default:
      return film.sound.empty()
                 ? say_q("none|fades and sound")
                 : QString::fromStdString(std::filesystem::path(film.sound).filename().string());
  }
}

std::vector<double> FilmLanes::anchor_times(int lane) const {
  std::vector<double> times;
  if (lane == Speed)
    for (const render::SpeedAnchor& a : session_.films.wish().choice.speed) times.push_back(a.at_s);
  if (lane == View)
    for (const render::ViewAnchor& a : session_.films.wish().views) times.push_back(a.at_s);
  return times;
}

int FilmLanes::anchor_at(int lane, double x) const {
  const std::vector<double> times = anchor_times(lane);
  int nearest = -1;
  for (size_t n = 0; n < times.size(); ++n)
    if (std::abs(x_of(times[n]) - x) < kHold &&
        (nearest < 0 ||
         std::abs(x_of(times[n]) - x) < std::abs(x_of(times[static_cast<size_t>(nearest)]) - x)))
      nearest = static_cast<int>(n);
  return nearest;
}

void FilmLanes::move_anchor(int lane, int which, double film_s) {
  const double apart = 2 * session_.films.tolerance_s();
  session_.films.edit(
      [&](take::FilmWish& film) {
        if (lane == Speed) render::move_anchor(film.choice.speed, static_cast<size_t>(which), film_s, apart);
        if (lane == View) render::move_anchor(film.views, static_cast<size_t>(which), film_s, apart);
      },
      "anchor drag");
}

void FilmLanes::remove_anchor() {
  session_.films.edit([&](take::FilmWish& film) {
    const double tolerance = session_.films.tolerance_s();
    if (chosen_ == Speed) render::remove_anchor(film.choice.speed, now_s(), tolerance);
    if (chosen_ == View) render::remove_anchor(film.views, now_s(), tolerance);
    if (chosen_ == Trail) film.choice.trail = 1, film.choice.bright = 0;
    if (chosen_ == Fade) film.fade_in_s = film.fade_out_s = 0;
    if (chosen_ == Sound) film.sound.clear();
  });
}

void FilmLanes::set_value(int lane, double value, const QString& drag) {
  const auto of = session_.preview.now();
  if (!of) return;
  try {
    if (lane == Speed) session_.films.set_speed(now_s(), value, drag);
    if (lane == View) {
      render::View view = render::view_at(session_.films.wish().views, now_s(), of->frame, of->order.size);
      view.width = value / 100;
      session_.films.set_view(now_s(), view, drag);
    }
    if (lane == Trail)
      session_.films.edit(
          [&](take::FilmWish& film) {
            film.choice.bright = 0;
            film.choice.trail = std::clamp<long long>(std::llround(value), 1, render::kLongestTrail);
          },
          drag);
    if (lane == Fade) {
      const bool in = now_s() < length_s() / 2;
      const double fade = std::clamp(value, 0.0, std::min(60.0, length_s()));
      session_.films.edit([&](take::FilmWish& film) { (in ? film.fade_in_s : film.fade_out_s) = fade; },
                          drag);
    }
  } catch (const Error& e) {
    emit session_.trouble(QString::fromUtf8(e.what()));
  }
}

void FilmLanes::set_share(int lane, double share, const QString& drag) {
  share = std::clamp(share, 0.0, 1.0);
  if (lane == Speed) {
    double times = std::exp2(share * 2 * kSpeedOctaves - kSpeedOctaves);
    if (std::abs(std::log2(times)) < 0.06) times = 1;  // as shot is easily met
    set_value(lane, std::round(times * 100) / 100, drag);
  }
  if (lane == View) set_value(lane, std::round(100 * std::pow(kNarrowest, 1 - share)), drag);
  if (lane == Trail) set_value(lane, 1 + share * static_cast<double>(render::kLongestTrail - 1), drag);
}

void FilmLanes::step(int lane, int steps) {
  if (lane_rect(lane).isEmpty()) return;
  const double now = value_now(lane);
  const QString drag = QString("lane key %1").arg(lane);
  if (lane == Speed) set_value(lane, std::round(now * std::exp2(steps / 4.0) * 100) / 100, drag);
  if (lane == View) set_value(lane, std::round(now) + steps, drag);
  if (lane == Trail) set_value(lane, now + steps, drag);
  if (lane == Fade) set_value(lane, now + 0.1 * steps, drag);
}

void FilmLanes::draw_lane(QPainter& p, int lane) const {
  const Colours& c = colours();
  const QRectF place = lane_rect(lane);
  p.fillRect(place, c.card);
  p.setFont(word_font(9.5, lane == chosen_ && hasFocus() ? QFont::Bold : QFont::Normal));
  p.setPen(c.ink);
  draw_fitted(p, QRectF(0, place.top(), kAxisLeft - 8, place.height()), Qt::AlignVCenter | Qt::AlignRight,
              say_q(kTitles[lane]));
  if (length_s() <= 0) return;
  const auto y_of = [&](double share) { return place.bottom() - 2 - share * (place.height() - 4); };
  if (lane == Still) {
    draw_still(p, place);
  } else if (lane == Sound) {
    draw_sound(p, place);
  } else {
    QPolygonF curve;
    for (double x = place.left(); x < place.right() + kCurve; x += kCurve) {
      const double at = std::min(x, place.right());
      curve << QPointF(at, y_of(share_at(lane, s_at(at))));
    }
    p.setPen(QPen(c.film, 1.4));
    p.drawPolyline(curve);
    for (const double at : anchor_times(lane)) {
      const bool here = std::abs(at - now_s()) < session_.films.tolerance_s();
      p.fillRect(QRectF(std::min(x_of(at), place.right()) - 3.5, y_of(share_at(lane, at)) - 3.5, 7, 7),
                 here ? c.here : c.ink);
    }
  }
  p.setFont(figure_font(8.5));
  const QString words = words_of(lane);
  const double w = p.fontMetrics().horizontalAdvance(words) + 4, here = x_of(now_s());
  const bool left = here + 10 + w > place.right();
  const QRectF box(left ? here - 10 - w : here + 10, place.top(), w, place.height());
  p.fillRect(box.adjusted(-3, 1, 3, -1), c.card);  // the curve does not run through the figure
  p.setPen(meant(words, "as shot") || meant(words, "none|fades and sound") ||
                   meant(words, "as the camera stood")
               ? c.muted
               : c.film);
  p.drawText(box, Qt::AlignVCenter | (left ? Qt::AlignRight : Qt::AlignLeft), words);
}

/// How far the picture's middle jumps from frame to frame: as shot, and as the film has it.
void FilmLanes::draw_still(QPainter& p, const QRectF& place) const {
  const Colours& c = colours();
  const auto& path = session_.way.path();
  const auto of = session_.preview.now();
  if (!path || !of) return;
  const render::Timeline& timeline = of->plan->timeline();
  const auto steps = [&](const auto& pose_of) {
    std::vector<double> out(timeline.frames(), 0);
    for (size_t n = 1; n < out.size(); ++n) {
      const auto a = static_cast<size_t>(timeline.take_place(n - 1)),
                 b = static_cast<size_t>(timeline.take_place(n));
      const motion::Pose from = pose_of(a), to = pose_of(b);
      out[n] = std::hypot(to.dx - from.dx, to.dy - from.dy);
    }
    return out;
  };
  const auto shot = steps([&](size_t n) { return (*path)[n]; });
  double most = 1.0 / of->frame.width;
  for (const double s : shot) most = std::max(most, s);
  const auto draw = [&](const std::vector<double>& of_frames, const QColor& colour) {
    QPolygonF curve;
    for (size_t n = 0; n < of_frames.size(); ++n)
      curve << QPointF(x_of(static_cast<double>(n) * tick_s()),
                       place.bottom() - 2 - of_frames[n] / most * (place.height() - 4));
    p.setPen(QPen(colour, 1));
    p.drawPolyline(curve);
  };
  draw(shot, c.muted);
  const auto& corrections = of->steadied.corrections;
  if (corrections.size() != path->size()) return;
  draw(steps([&](size_t n) {
         motion::Pose left = (*path)[n];
         left.dx -= corrections[n].dx, left.dy -= corrections[n].dy;
         return left;
       }),
       c.film);
}

void FilmLanes::draw_sound(QPainter& p, const QRectF& place) const {
  if (levels_.empty() || session_.films.wish().sound.empty()) return;
  p.setPen(QPen(colours().film, 1));
  const float most = std::max(1e-4F, *std::max_element(levels_.begin(), levels_.end()));
  for (size_t n = 0; n < levels_.size(); ++n) {
    const double x =
        place.left() + (static_cast<double>(n) + 0.5) / static_cast<double>(levels_.size()) * place.width();
    const double half = static_cast<double>(levels_[n] / most) * (place.height() / 2 - 2);
    p.drawLine(QPointF(x, place.center().y() - half), QPointF(x, place.center().y() + half));
  }
}

double FilmLanes::lanes_bottom() const {
  return shown_.empty() ? 6 : lane_rect(shown_.back()).bottom() + 2;
}

void FilmLanes::draw_ruler(QPainter& p) const {
  const Colours& c = colours();
  const double length = length_s(), top = lanes_bottom();
  if (length <= 0) return;
  p.setFont(figure_font(8.5));
  p.setPen(c.film);
  double step = 0.1;
  for (const double s :
       {0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 30.0, 60.0, 120.0, 300.0, 600.0, 1800.0, 3600.0}) {
    step = s;
    if (x_of(s) - x_of(0) > 64) break;
  }
  for (double at = 0; at <= length + 1e-6; at += step) {
    const double x = x_of(at);
    const QRectF box(x - 40, top + 2, 80, kRuler - 2);
    if (box.center().x() + 18 > width()) break;
    p.drawLine(QPointF(x, top - 1), QPointF(x, top + 3));
    p.drawText(box, Qt::AlignCenter, QString::fromStdString(format_number(at, step < 1 ? 1 : 0)) + " s");
  }
}

void FilmLanes::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  for (const int lane : shown_) draw_lane(p, lane);
  if (length_s() <= 0) return;
  draw_ruler(p);
  const double here = x_of(now_s());
  p.setPen(QPen(colours().here, 2));
  p.drawLine(QPointF(here, 0), QPointF(here, lanes_bottom() + (shown_.empty() ? 5 : 0)));
}

void FilmLanes::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || length_s() <= 0) return;
  from_ = event->position();
  dragged_ = lane_at(from_.y());
  if (dragged_ >= 0) chosen_ = dragged_;
  anchor_ = dragged_ >= 0 ? anchor_at(dragged_, from_.x()) : -1;
  drag_ = Drag::Begun;
  const double at = anchor_ >= 0 ? anchor_times(dragged_)[static_cast<size_t>(anchor_)] : s_at(from_.x());
  if (dragged_ != Fade) player_.seek(std::llround(at / tick_s()));
  player_.pause();
  from_share_ = dragged_ >= 0 ? share_at(dragged_, now_s()) : 0;
  update();
}

void FilmLanes::mouseMoveEvent(QMouseEvent* event) {
  if (drag_ == Drag::None || !(event->buttons() & Qt::LeftButton)) return;
  const QPointF by = event->position() - from_;
  if (drag_ == Drag::Begun) {
    if (by.manhattanLength() < 4) return;
    const bool across = std::abs(by.x()) >= std::abs(by.y());
    const bool has_value = dragged_ == Speed || dragged_ == View || dragged_ == Trail;
    if (dragged_ == Fade && across)
      drag_ = s_at(from_.x()) < length_s() / 2 ? Drag::FadeIn : Drag::FadeOut;
    else if (anchor_ >= 0 && across)
      drag_ = Drag::Time;
    else
      drag_ = has_value && !across ? Drag::Value : Drag::Scrub;
  }
  const double at = s_at(event->position().x());
  switch (drag_) {
    case Drag::Scrub:
      player_.seek(std::llround(at / tick_s()));
      break;
    case Drag::Value:
      set_share(dragged_, from_share_ - by.y() / kDragForAll, QString("lane drag %1").arg(dragged_));
      break;
    case Drag::Time:
      move_anchor(dragged_, anchor_, std::round(at / tick_s()) * tick_s());
      player_.seek(std::llround(anchor_times(dragged_)[static_cast<size_t>(anchor_)] / tick_s()));
      break;
    case Drag::FadeIn:
    case Drag::FadeOut: {
      const double fade = std::round((drag_ == Drag::FadeIn ? at : length_s() - at) * 10) / 10;
      session_.films.edit(
          [&](take::FilmWish& film) {
            (drag_ == Drag::FadeIn ? film.fade_in_s : film.fade_out_s) = std::clamp(fade, 0.0, 60.0);
          },
          "fade drag");
      break;
    }
    default:
      break;
  }
}

void FilmLanes::mouseReleaseEvent(QMouseEvent*) {
  drag_ = Drag::None;
  session_.document.end_drag();
}

void FilmLanes::mouseDoubleClickEvent(QMouseEvent* event) {
  const int lane = lane_at(event->position().y());
  if (lane < 0) return;
  player_.seek(std::llround(s_at(event->position().x()) / tick_s()));
  type(lane);
}

void FilmLanes::say_keys() {
  const auto choose = [this](int by) {
    const auto at = std::find(shown_.begin(), shown_.end(), chosen_) - shown_.begin() + by;
    if (at < 0 || at >= static_cast<long>(shown_.size())) return;
    chosen_ = shown_[static_cast<size_t>(at)];
    update();
  };
  keys_.add(Qt::Key_Up, say_q("To the lane above"), [choose] { choose(-1); });
  keys_.add(Qt::Key_Down, say_q("To the lane below"), [choose] { choose(1); });
  keys_.add(Qt::Key_Left, say_q("To the frame before"), [this] { player_.seek(player_.frame() - 1); });
  keys_.add(Qt::Key_Right, say_q("To the next frame"), [this] { player_.seek(player_.frame() + 1); });
  keys_.add(Qt::Key_Plus, say_q("One step up"), [this] { step(chosen_, 1); });
  keys_.add(Qt::Key_Equal, {}, [this] { step(chosen_, 1); });
  keys_.add(Qt::Key_Minus, say_q("One step down"), [this] { step(chosen_, -1); });
  keys_.add(Qt::Key_Return, say_q("Type its value here"), [this] { type(chosen_); });
  keys_.add(Qt::Key_Enter, {}, [this] { type(chosen_); });
  keys_.add(Qt::Key_Delete, say_q("Remove the lane's anchor here"), [this] { remove_anchor(); });
}

void FilmLanes::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

void FilmLanes::type(int lane) {
  if (length_s() <= 0 || lane == Still || lane == Sound || lane_rect(lane).isEmpty()) return;
  chosen_ = lane;
  auto* editor = new QLineEdit(this);
  editor->setObjectName("typed");
  editor->setFont(figure_font(9.5));
  editor->setText(QString::fromStdString(format_number(value_now(lane), 2)));
  const QRectF place = lane_rect(lane);
  const double x = std::min(x_of(now_s()) + 8, place.right() - 112);
  editor->setGeometry(static_cast<int>(x), static_cast<int>(place.center().y()) - 12, 110, 24);
  editor->selectAll();
  editor->show();
  editor->setFocus();
  connect(editor, &QLineEdit::editingFinished, editor, [this, editor, lane] {
    const std::string text = editor->text().trimmed().toStdString();
    editor->deleteLater();
    editor->disconnect(this);
    editor->blockSignals(true);
    setFocus();
    constexpr double kLeast[] = {render::kSlowest, 1, 1, 0, 0, 0};
    constexpr double kMost[] = {render::kFastest, 100, static_cast<double>(render::kLongestTrail), 0, 60, 0};
    try {
      set_value(lane, parse_number(text, kLeast[lane], kMost[lane], say(kTitles[lane])), {});
    } catch (const Error& e) {
      emit session_.trouble(QString::fromUtf8(e.what()));
    }
  });
}

/// Reads how loud the sound is, beside the window.
void FilmLanes::follow_sound() {
  const auto of = session_.preview.now();
  const media::Sound sound = of ? of->order.extras.sound : media::Sound{};
  const double length = length_s();
  if (sound == levels_of_ && length == levels_length_) return;
  listening_.disown();
  levels_.clear();
  levels_of_ = sound;
  levels_length_ = length;
  if (sound.file.empty() || length <= 0) return;
  const auto found = std::make_shared<std::vector<float>>();
  listening_.start(
      {say_q("Listening"),
       [found, sound, length](const Work&) { *found = media::sound_levels(sound, length, kLevels); },
       [this, found] {
         levels_ = std::move(*found);
         update();
       },
       {}});
}

}  // namespace askcount::app

#include "moc_film_lanes.cpp"
