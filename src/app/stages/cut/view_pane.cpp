// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/cut/view_pane.h"

#include <algorithm>
#include <cmath>
#include <QLineF>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/image.h"
#include "base/error.h"
#include "base/units.h"
#include "render/anchors.h"
#include "render/drawing.h"

namespace askcount::app {
namespace {

constexpr double kCorner = 12;  // pixels around a corner that take hold of it
constexpr double kStep = 0.01, kFineStep = 0.002, kWider = 1.03, kFineWider = 1.005;
constexpr double kTurn = 0.5, kFineTurn = 0.1, kMostTurn = 45;  // degrees
constexpr int kWhilePlaying = 6;                                // pictures of the film for one here

}  // namespace

ViewPane::ViewPane(Session& session, PreviewPlayer& player, QWidget* parent)
    : PictureView(parent), session_(session), player_(player) {
  setFocusPolicy(Qt::StrongFocus);
  setObjectName("view");
  say_keys();
  setAccessibleName(say_q("The part of the frame that the film shows"));
  setToolTip(say_q("Drag to move the view, at a corner to make it wider, with the right button to turn it"));
  connect(&player, &PreviewPlayer::moved, this, &ViewPane::show_frame);
  connect(&session.preview, &Preview::filled, this, [this] {
    if (!drawn_whole_) show_frame();
  });
  connect(&session.preview, &Preview::changed, this, [this] {
    drawn_ = -1;
    show_frame();
  });
}

double ViewPane::now_s() const {
  const auto of = session_.preview.now();
  return of ? static_cast<double>(player_.frame()) / of->order.fps.value() : 0;
}

std::optional<render::View> ViewPane::view() const {
  const auto of = session_.preview.now();
  if (!of) return {};
  return render::view_at(of->order.views, now_s(), of->frame, of->order.size);
}

/// The whole frame, levelled, with the film's look.
void ViewPane::show_frame() {
  update();
  const auto of = session_.preview.now();
  const auto small = session_.preview.small();
  if (!of || !small) {
    drawn_ = -1;
    set({}, " ");
    return;
  }
  const auto film_frame = static_cast<size_t>(player_.frame());
  if (film_frame >= of->plan->timeline().frames()) return;
  const long long frame = session_.films.take_frame(player_.frame());
  if (frame == drawn_ && drawn_whole_) return;
  if (player_.playing() && player_.frame() % kWhilePlaying != 0) return;
  const auto n = static_cast<size_t>(frame);
  const auto decoded = small->at(n);
  if (!decoded) return;
  drawn_ = frame;
  drawn_whole_ = small->known(n) == render::Known::Whole;
  render::FramePlan plan = of->plan->layer_plan(film_frame, static_cast<double>(frame), n, decoded->full);
  plan.map = render::film_to_frame({}, of->frame, of->frame);
  plan.film = plan.frame_size = of->frame;
  plan.fade = 1;
  if (!of->order.corrections.empty()) plan.correction = of->order.corrections[n];
  set(image_of(render::developed(*decoded->shown, plan, {width(), height()})));
}

QPolygonF ViewPane::corners_through(const image::Affine& film_to_frame) const {
  const auto of = session_.preview.now();
  const QRectF room = picture_rect();
  const image::Size film = of->order.size;
  QPolygonF corners;
  for (const auto& [x, y] : {std::pair{0, 0}, {film.width, 0}, {film.width, film.height}, {0, film.height}}) {
    const auto [at_x, at_y] = film_to_frame(x, y);
    corners << QPointF(room.left() + at_x / of->frame.width * room.width(),
                       room.top() + at_y / of->frame.height * room.height());
  }
  return corners;
}

QPolygonF ViewPane::outline_of(const render::View& view) const {
  const auto of = session_.preview.now();
  return corners_through(render::film_to_frame(view, of->frame, of->order.size));
}

QPolygonF ViewPane::outline() const {
  const auto of = session_.preview.now();
  const auto film_frame = static_cast<size_t>(player_.frame());
  if (!of || film_frame >= of->plan->timeline().frames()) return {};
  const render::FramePlan plan = of->plan->layer_plan(
      film_frame, 0, static_cast<size_t>(session_.films.take_frame(player_.frame())), of->frame);
  return plan.map ? corners_through(*plan.map) : outline_of(*view());
}

void ViewPane::paintEvent(QPaintEvent* event) {
  PictureView::paintEvent(event);
  const auto of = session_.preview.now();
  const auto now = view();
  if (!now || drawn_ < 0) return;
  const Colours& c = colours();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setFont(word_font(8.5));
  const QPolygonF shown = outline();
  // What is not seen is darker.
  QPainterPath around, inside;
  around.addRect(picture_rect());
  inside.addPolygon(shown);
  inside.closeSubpath();
  p.fillPath(around.subtracted(inside), QColor(0, 0, 0, 90));
  const auto tag = [&](const QPolygonF& at, const QString& word, const QColor& colour, Qt::PenStyle style) {
    p.setPen(QPen(colour, style == Qt::SolidLine ? 2 : 1.2, style));
    p.drawPolygon(at);
    p.drawText(at.boundingRect().adjusted(6, 3, -4, -4), Qt::AlignLeft | Qt::AlignTop, word);
  };
  const auto& anchors = of->order.views;
  if (anchors.size() > 1) {
    tag(outline_of(anchors.front().view), say_q("first"), c.film, Qt::DashLine);
    tag(outline_of(anchors.back().view), say_q("last"), c.film, Qt::DotLine);
  }
  tag(shown, anchors.size() > 1 ? say_q("now") : QString(), c.here, Qt::SolidLine);
  p.setPen(Qt::NoPen);
  p.setBrush(c.here);
  for (const QPointF& corner : shown) p.drawRect(QRectF(corner.x() - 3, corner.y() - 3, 6, 6));
  if (hasFocus()) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(c.here, 1, Qt::DotLine));
    p.drawRect(QRectF(picture_rect()).adjusted(0.5, 0.5, -1, -1));
  }
}

/// Makes the view of this moment another, as far as it lies in the frame.
void ViewPane::change(render::View view, const QString& drag) {
  view.turn_deg = std::clamp(view.turn_deg, -kMostTurn, kMostTurn);
  try {
    session_.films.set_view(now_s(), view, drag);
  } catch (const Error& e) {
    emit session_.trouble(QString::fromUtf8(e.what()));
  }
}

ViewPane::Drag ViewPane::drag_at(const QPointF& place) const {
  const QPolygonF corners = outline();
  for (const QPointF& corner : corners)
    if (QLineF(corner, place).length() < kCorner) return Drag::Widen;
  return corners.containsPoint(place, Qt::OddEvenFill) ? Drag::Move : Drag::None;
}

void ViewPane::mousePressEvent(QMouseEvent* event) {
  const auto now = view();
  if (!now) return;
  player_.pause();
  drag_ = event->button() == Qt::RightButton ? Drag::Turn : drag_at(event->position());
  from_ = event->position();
  began_ = *view();
}

void ViewPane::mouseMoveEvent(QMouseEvent* event) {
  if (drag_ == Drag::None || !session_.preview.now()) return;
  const QRectF room = picture_rect();
  const QPointF by = event->position() - from_;
  render::View next = began_;
  const QPointF middle(room.left() + began_.x * room.width(), room.top() + began_.y * room.height());
  if (drag_ == Drag::Move) {
    next.x += by.x() / room.width();
    next.y += by.y() / room.height();
  } else if (drag_ == Drag::Widen) {
    const double before = std::max(4.0, QLineF(middle, from_).length());
    next.width *= QLineF(middle, event->position()).length() / before;
  } else {
    const double turned = QLineF(middle, from_).angleTo(QLineF(middle, event->position()));
    next.turn_deg += -(turned > 180 ? turned - 360 : turned);
  }
  change(next, "view drag");
}

void ViewPane::mouseReleaseEvent(QMouseEvent*) {
  drag_ = Drag::None;
  session_.document.end_drag();
}

void ViewPane::wheelEvent(QWheelEvent* event) {
  const auto now = view();
  const int steps = event->angleDelta().y() / 120;
  if (!now || steps == 0) return;
  render::View next = *now;
  next.width *= std::pow(kWider, -steps);
  change(next, "view wheel");
}

void ViewPane::say_keys() {
  const auto add = [this](Qt::Key key, const QString& words, std::function<void(render::View&, bool)> deed) {
    for (const bool fine : {false, true})
      keys_.add(
          key, fine ? QString() : words,
          [this, deed, fine] {
            render::View next = *view();
            deed(next, fine);
            change(next, "view key");
          },
          fine ? Qt::KeyboardModifiers(Qt::ShiftModifier) : Qt::KeyboardModifiers());
  };
  const auto step = [](bool fine) { return fine ? kFineStep : kStep; };
  const auto wider = [](bool fine) { return fine ? kFineWider : kWider; };
  const auto turn = [](bool fine) { return fine ? kFineTurn : kTurn; };
  const auto widen = [wider](render::View& v, bool fine) { v.width *= wider(fine); };
  const auto narrow = [wider](render::View& v, bool fine) { v.width /= wider(fine); };
  add(Qt::Key_Left, say_q("Move the view left; with Shift, finer"),
      [step](render::View& v, bool fine) { v.x -= step(fine); });
  add(Qt::Key_Right, say_q("Move the view right"), [step](render::View& v, bool fine) { v.x += step(fine); });
  add(Qt::Key_Up, say_q("Move the view up"), [step](render::View& v, bool fine) { v.y -= step(fine); });
  add(Qt::Key_Down, say_q("Move the view down"), [step](render::View& v, bool fine) { v.y += step(fine); });
  add(Qt::Key_Plus, say_q("Widen the view"), widen);
  add(Qt::Key_Equal, {}, widen);
  add(Qt::Key_Minus, say_q("Narrow the view"), narrow);
  add(Qt::Key_Underscore, {}, narrow);
  add(Qt::Key_BracketLeft, say_q("Turn the view to the left"),
      [turn](render::View& v, bool fine) { v.turn_deg -= turn(fine); });
  add(Qt::Key_BracketRight, say_q("Turn the view to the right"),
      [turn](render::View& v, bool fine) { v.turn_deg += turn(fine); });
  keys_.add(Qt::Key_Delete, say_q("Remove the view's anchor here"), [this] {
    session_.films.edit([&](take::FilmWish& film) {
      render::remove_anchor(film.views, now_s(), session_.films.tolerance_s());
    });
  });
  keys_.add(Qt::Key_Backspace, say_q("Show the whole frame"),
            [this] { session_.films.edit([](take::FilmWish& film) { film.views.clear(); }); });
}

void ViewPane::keyPressEvent(QKeyEvent* event) {
  if (!session_.preview.now() || !view() || !keys_.pressed(*event)) PictureView::keyPressEvent(event);
}

}  // namespace askcount::app

#include "moc_view_pane.cpp"
