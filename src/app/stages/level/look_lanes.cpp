// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/look_lanes.h"

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
#include "base/number.h"
#include "base/units.h"

namespace askcount::app {
namespace {

constexpr double kTags = 19, kLeastLane = 11, kLane = 18;
constexpr double kDragForAll = 160;  // pixels up or down that go through a lane's range
constexpr int kCurve = 4;            // pixels from point to point of a lane's curve

/// Where a value lies between the ends of its lane, 0 to 1; warmth by its reciprocal.
double share_of(const look::Lane& lane, double value, double as_shot_k) {
  if (lane.value != &look::Look::warmth_k)
    return std::clamp((value - lane.least) / (lane.most - lane.least), 0.0, 1.0);
  const double kelvin = value > 0 ? value : as_shot_k;
  return std::clamp((1 / lane.least - 1 / kelvin) / (1 / lane.least - 1 / lane.most), 0.0, 1.0);
}

double value_of(const look::Lane& lane, double share) {
  share = std::clamp(share, 0.0, 1.0);
  const double value = lane.value == &look::Look::warmth_k
                           ? 1 / (1 / lane.least - share * (1 / lane.least - 1 / lane.most))
                           : lane.least + share * (lane.most - lane.least);
  return std::round(value / lane.step) * lane.step;
}

}  // namespace

QString lane_value(const look::Lane& lane, double value, double as_shot_k) {
  const bool warmth = lane.value == &look::Look::warmth_k;
  if (value == lane.neutral)
    return warmth
               ? QString::fromStdString(format_count(std::lround(as_shot_k / 10) * 10)) + say_q(" K, as shot")
               : say_q("as shot");
  const QString sign = lane.least < 0 && value > 0 ? "+" : "";
  const QString unit = *lane.unit ? " " + say_q(lane.unit) : QString();
  const std::string number = lane.digits == 0
                                 ? format_count(std::lround(value / lane.step) * std::lround(lane.step))
                                 : format_number(value, lane.digits);
  return sign + QString::fromStdString(number) + unit;
}

double typed_value(const look::Lane& lane, const QString& text) {
  const std::string typed = text.trimmed().toStdString();
  if (typed.empty() || meant(typed, "as shot")) return lane.neutral;
  return parse_number(typed, lane.least, lane.most, say(lane.title));
}

LookLanes::LookLanes(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
  setObjectName("look");
  say_keys();
  setAccessibleName(
      say_q("The look over the film: light, warmth, cast, depth, bright parts, dark parts, black, colour, "
            "haze and crispness"));
  setToolTip(say_q("Drag a lane up or down to change it at the frame looked at"));
  connect(&session.levelling, &Levelling::looks_changed, this, qOverload<>(&QWidget::update));
  connect(&session.frames, &Frames::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
}

QSize LookLanes::sizeHint() const {
  return {900, static_cast<int>(kLane * static_cast<double>(shown_.size()) + kTags)};
}

QSize LookLanes::minimumSizeHint() const {
  return {300, static_cast<int>(kLeastLane * static_cast<double>(shown_.size()) + kTags)};
}

void LookLanes::show_lanes(const std::vector<int>& lanes) {
  if (lanes == shown_) return;
  shown_ = lanes;
  setFocusPolicy(lanes.empty() ? Qt::NoFocus : Qt::StrongFocus);
  if (!shown_.empty() && std::find(shown_.begin(), shown_.end(), chosen_) == shown_.end())
    chosen_ = shown_.front();
  updateGeometry();
  update();
}

void LookLanes::choose(int lane) {
  chosen_ = lane;
  update();
}

long long LookLanes::frames() const {
  return session_.playhead.count();
}

QRectF LookLanes::lane_rect(int lane) const {
  const auto at = std::find(shown_.begin(), shown_.end(), lane);
  if (at == shown_.end()) return {};
  const double height = (this->height() - kTags) / static_cast<double>(shown_.size());
  return {kAxisLeft, static_cast<double>(at - shown_.begin()) * height, width() - kAxisLeft - kAxisRight,
          height - 2};
}

double LookLanes::x_of(long long frame) const {
  const double n = std::max<double>(1, static_cast<double>(frames()));
  return kAxisLeft + (static_cast<double>(frame) + 0.5) / n * (width() - kAxisLeft - kAxisRight);
}

long long LookLanes::frame_at(double x) const {
  const auto n = static_cast<double>(frames());
  return std::clamp(static_cast<long long>((x - kAxisLeft) / (width() - kAxisLeft - kAxisRight) * n), 0LL,
                    std::max(0LL, frames() - 1));
}

int LookLanes::lane_at(double y) const {
  for (const int lane : shown_)
    if (const QRectF place = lane_rect(lane); y >= place.top() && y < place.bottom() + 2) return lane;
  return -1;
}

double LookLanes::value_now(int lane) const {
  const look::Look now =
      look::look_at(session_.levelling.looks(), static_cast<double>(session_.playhead.at()));
  return now.*look::lanes()[static_cast<size_t>(lane)].value;
}

void LookLanes::change(int lane, double value, const QString& drag) {
  if (frames() == 0) return;
  const look::Lane& l = look::lanes()[static_cast<size_t>(lane)];
  const long long frame = session_.playhead.at();
  look::Look at = look::look_at(session_.levelling.looks(), static_cast<double>(frame));
  at.*l.value = value == l.neutral ? value : std::clamp(value, l.least, l.most);
  session_.document.edit([&](take::Take& t) { look::set_anchor(t.look.anchors, frame, at); }, drag);
}

void LookLanes::step(int lane, int steps, const QString& drag) {
  const look::Lane& l = look::lanes()[static_cast<size_t>(lane)];
  const double now = value_now(lane);
  const bool as_shot = l.value == &look::Look::warmth_k && now == 0;
  change(lane, (as_shot ? session_.levelling.looks().as_shot_k : now) + steps * l.step, drag);
}

void LookLanes::draw_lane(QPainter& p, int lane) const {
  const Colours& c = colours();
  const look::Lane& l = look::lanes()[static_cast<size_t>(lane)];
  const look::Looks& looks = session_.levelling.looks();
  const QRectF place = lane_rect(lane);
  p.fillRect(place, c.card);
  p.setFont(word_font(9.5, lane == chosen_ && hasFocus() ? QFont::Bold : QFont::Normal));
  p.setPen(c.ink);
  draw_fitted(p, QRectF(0, place.top(), kAxisLeft - 8, place.height()), Qt::AlignVCenter | Qt::AlignRight,
              say_q(l.title));
  const auto y_of = [&](const look::Look& look) {
    return place.bottom() - 2 - share_of(l, look.*l.value, looks.as_shot_k) * (place.height() - 4);
  };
  QPolygonF curve;
  const auto n = static_cast<double>(frames());
  for (double x = place.left(); x < place.right() + kCurve; x += kCurve) {
    const double at = std::min(x, place.right());
    curve << QPointF(at, y_of(look::look_at(looks, (at - place.left()) / place.width() * n - 0.5)));
  }
  p.setPen(QPen(c.muted, 1.2));
  p.drawPolyline(curve);
  for (const look::Anchor& a : looks.anchors) {
    const bool here = a.frame == session_.playhead.at();
    p.fillRect(QRectF(x_of(a.frame) - 3, y_of(a.look) - 3, 6, 6), here ? c.here : c.ink);
  }
  const double here = x_of(session_.playhead.at());
  p.setFont(figure_font(8.5));
  const QString value = lane_value(l, value_now(lane), looks.as_shot_k);
  const double w = p.fontMetrics().horizontalAdvance(value) + 4;
  p.setPen(value.endsWith(say_q("as shot")) ? c.muted : c.here);
  const bool left = here + 10 + w > place.right();
  const QRectF box(left ? here - 10 - w : here + 10, place.top(), w, place.height());
  p.fillRect(box.adjusted(-3, 0, 3, 0), c.card);  // the curve does not run through the figure
  p.drawText(box, Qt::AlignVCenter | (left ? Qt::AlignRight : Qt::AlignLeft), value);
}

void LookLanes::draw_anchors(QPainter& p) const {
  const Colours& c = colours();
  const double below = height() - kTags;
  const long long now = session_.playhead.at();
  const double here = x_of(now);
  p.setPen(QPen(c.here, 2));
  if (!shown_.empty()) p.drawLine(QPointF(here, 0), QPointF(here, below));
  p.setFont(figure_font(8.5, true));
  double free = 0;
  for (const look::Anchor& a : session_.levelling.looks().anchors) {
    const QString number = QString::fromStdString(format_count(a.frame + 1));
    const double w = p.fontMetrics().horizontalAdvance(number) + 12, x = x_of(a.frame);
    if (a.frame >= frames()) continue;
    p.setPen(QPen(a.frame == now ? c.here : c.line, 1));
    p.drawLine(QPointF(x, 0), QPointF(x, below + 2));
    const QRectF tag(std::min(x - w / 2, width() - w), below + 3, w, kTags - 4);
    if (tag.left() < free && a.frame != now) continue;  // anchors side by side: their lines still show
    free = tag.right() + 2;
    p.fillRect(tag, a.frame == now ? c.here : c.line);
    p.setPen(a.frame == now ? c.paper : c.ink);
    p.drawText(tag, Qt::AlignCenter, number);
  }
  if (session_.levelling.looks().anchors.empty()) {
    p.setFont(word_font(9));
    p.setPen(c.muted);
    p.drawText(QRectF(kAxisLeft, below + 2, width() - kAxisLeft, kTags - 2), Qt::AlignVCenter | Qt::AlignLeft,
               say_q("No anchors yet: add a value of the look, or press A at a frame."));
  }
}

void LookLanes::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  for (const int lane : shown_) draw_lane(p, lane);
  if (frames() > 0) draw_anchors(p);
}

void LookLanes::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || frames() == 0) return;
  const int lane = lane_at(event->position().y());
  if (lane < 0) {  // the tags: the nearest anchor
    const look::Anchor* nearest = nullptr;
    for (const look::Anchor& a : session_.levelling.looks().anchors)
      if (!nearest || std::abs(x_of(a.frame) - event->position().x()) <
                          std::abs(x_of(nearest->frame) - event->position().x()))
        nearest = &a;
    if (nearest) session_.playhead.set(nearest->frame);
    return;
  }
  chosen_ = dragging_ = lane;
  drag_from_ = event->position().y();
  const look::Lane& l = look::lanes()[static_cast<size_t>(lane)];
  drag_value_ = share_of(l, value_now(lane), session_.levelling.looks().as_shot_k);
  update();
}

void LookLanes::mouseMoveEvent(QMouseEvent* event) {
  if (dragging_ < 0 || !(event->buttons() & Qt::LeftButton)) return;
  const double by = (drag_from_ - event->position().y()) / kDragForAll;
  if (std::abs(by) * kDragForAll < 3) return;
  const look::Lane& l = look::lanes()[static_cast<size_t>(dragging_)];
  change(dragging_, value_of(l, drag_value_ + by), say_q("look %1").arg(dragging_));
}

void LookLanes::mouseReleaseEvent(QMouseEvent*) {
  dragging_ = -1;
  session_.document.end_drag();
}

void LookLanes::mouseDoubleClickEvent(QMouseEvent* event) {
  if (const int lane = lane_at(event->position().y()); lane >= 0 && frames() > 0) type(lane);
}

void LookLanes::wheelEvent(QWheelEvent* event) {
  const int lane = lane_at(event->position().y()), steps = event->angleDelta().y() / 120;
  if (lane < 0 || steps == 0 || frames() == 0) return;
  chosen_ = lane;
  step(lane, steps, QString("look wheel %1").arg(lane));
}

void LookLanes::say_keys() {
  const auto choose = [this](int by) {
    const auto at = std::find(shown_.begin(), shown_.end(), chosen_) - shown_.begin() + by;
    if (at >= 0 && at < static_cast<long>(shown_.size())) this->choose(shown_[static_cast<size_t>(at)]);
  };
  const auto step = [this](int by) {
    if (!shown_.empty()) this->step(chosen_, by, QString("look key %1").arg(chosen_));
  };
  keys_.add(Qt::Key_Up, say_q("To the lane above"), [choose] { choose(-1); });
  keys_.add(Qt::Key_Down, say_q("To the lane below"), [choose] { choose(1); });
  keys_.add(Qt::Key_Plus, say_q("One step up"), [step] { step(1); });
  keys_.add(Qt::Key_Equal, {}, [step] { step(1); });
  keys_.add(Qt::Key_Minus, say_q("One step down"), [step] { step(-1); });
  keys_.add(Qt::Key_Return, say_q("Type its value here"), [this] { type(chosen_); });
  keys_.add(Qt::Key_Enter, {}, [this] { type(chosen_); });
}

void LookLanes::keyPressEvent(QKeyEvent* event) {
  if (!keys_.pressed(*event)) QWidget::keyPressEvent(event);
}

void LookLanes::type(int lane) {
  if (frames() == 0 || lane_rect(lane).isEmpty()) return;
  chosen_ = lane;
  const look::Lane& l = look::lanes()[static_cast<size_t>(lane)];
  auto* editor = new QLineEdit(this);
  editor->setObjectName("typed");
  editor->setFont(figure_font(9.5));
  const double now = value_now(lane);
  if (now != l.neutral) editor->setText(QString::fromStdString(format_number(now, l.digits)));
  const QRectF place = lane_rect(lane);
  const double x = std::min(x_of(session_.playhead.at()) + 8, place.right() - 112);
  editor->setGeometry(static_cast<int>(x), static_cast<int>(place.center().y()) - 12, 110, 24);
  editor->setPlaceholderText(say_q("as shot"));
  editor->selectAll();
  editor->show();
  editor->setFocus();
  connect(editor, &QLineEdit::editingFinished, editor, [this, editor, lane, &l] {
    const QString text = editor->text().trimmed();
    editor->deleteLater();
    editor->disconnect(this);
    editor->blockSignals(true);
    try {
      change(lane, typed_value(l, text));
    } catch (const Error& e) {
      emit session_.trouble(QString::fromUtf8(e.what()));
    }
  });
}

}  // namespace askcount::app

#include "moc_look_lanes.cpp"
