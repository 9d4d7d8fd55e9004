// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/split_view.h"

#include <algorithm>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "image/luminance.h"

namespace askcount::app {
namespace {

constexpr int kAcross = image::Luminance::kAcross, kDown = image::Luminance::kDown;

}  // namespace

SplitView::SplitView(QWidget* parent) : QWidget(parent) {
  setMinimumSize(240, 120);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setCursor(Qt::SplitHCursor);
  setObjectName("split");
  setAccessibleName(say_q("The frame as shot and as the film will show it"));
}

void SplitView::set(const QImage& as_shot, const QImage& developed) {
  if (!as_shot.isNull()) as_shot_ = as_shot;
  if (!developed.isNull()) developed_ = developed;
  update();
}

void SplitView::clear() {
  as_shot_ = developed_ = {};
  update();
}

void SplitView::set_as_shot(bool on) {
  only_as_shot_ = on;
  update();
}

void SplitView::set_measured(const std::vector<bool>& measured) {
  measured_ = measured;
  update();
}

void SplitView::set_rings(const std::vector<Ring>& rings) {
  rings_ = rings;
  update();
}

void SplitView::set_drag(Drag drag) {
  drag_ = drag;
  marking_.clear();
  setCursor(drag == Drag::Split ? Qt::SplitHCursor : Qt::CrossCursor);
  update();
}

QRect SplitView::place() const {
  const QSize size = as_shot_.size().scaled(this->size(), Qt::KeepAspectRatio);
  return {QPoint((width() - size.width()) / 2, (height() - size.height()) / 2), size};
}

void SplitView::draw_parts(QPainter& p, const QRect& at) const {
  const Colours& c = colours();
  const auto cell = [&](int part) {
    const int x = part % kAcross, y = part / kAcross;
    return QRectF(at.left() + static_cast<double>(x) * at.width() / kAcross,
                  at.top() + static_cast<double>(y) * at.height() / kDown,
                  static_cast<double>(at.width()) / kAcross, static_cast<double>(at.height()) / kDown);
  };
  const auto has = [](const std::vector<bool>& set, int part) {
    return !set.empty() && set[static_cast<size_t>(part)];
  };
  p.setRenderHint(QPainter::Antialiasing, false);
  for (int part = 0; part < kAcross * kDown; ++part) {
    if (!measured_.empty() && !measured_[static_cast<size_t>(part)])
      p.fillRect(cell(part), QColor(0, 0, 0, 110));
    if (has(marking_, part)) p.fillRect(cell(part), QColor(c.here.red(), c.here.green(), c.here.blue(), 90));
  }
  if (measured_.empty()) return;
  p.setPen(QPen(c.here, 1, Qt::DashLine));
  for (int part = 0; part < kAcross * kDown; ++part) {
    if (!has(measured_, part)) continue;
    const QRectF r = cell(part);
    const int x = part % kAcross, y = part / kAcross;
    if (x == 0 || !has(measured_, part - 1)) p.drawLine(r.topLeft(), r.bottomLeft());
    if (x == kAcross - 1 || !has(measured_, part + 1)) p.drawLine(r.topRight(), r.bottomRight());
    if (y == 0 || !has(measured_, part - kAcross)) p.drawLine(r.topLeft(), r.topRight());
    if (y == kDown - 1 || !has(measured_, part + kAcross)) p.drawLine(r.bottomLeft(), r.bottomRight());
  }
}

void SplitView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  const Colours& c = colours();
  if (as_shot_.isNull()) {
    p.fillRect(rect(), c.column);
    return;
  }
  p.setRenderHints(QPainter::SmoothPixmapTransform | QPainter::Antialiasing);
  const QRect at = place();
  const int line = only_as_shot_ ? at.right() + 1 : at.left() + static_cast<int>(split_ * at.width());
  p.drawImage(at, shown_picture(as_shot_));
  if (!developed_.isNull() && line <= at.right()) {
    p.setClipRect(QRect(line, at.top(), at.right() - line + 1, at.height()));
    p.drawImage(at, shown_picture(developed_));
    p.setClipping(false);
  }
  draw_parts(p, at);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(c.here, 1.5));
  for (const Ring& ring : rings_) {
    const double r = std::max(5.0, 1.3 * ring.radius * at.width());
    p.drawEllipse(QPointF(at.left() + ring.middle.x() * at.width(), at.top() + ring.middle.y() * at.height()),
                  r, r);
  }
  p.setFont(word_font(9, QFont::DemiBold));
  const auto label = [&](const QString& text, bool left, int beside) {
    const int w = p.fontMetrics().horizontalAdvance(text) + 12, h = p.fontMetrics().height() + 4;
    const QRect box(left ? beside - w - 6 : beside + 6, at.bottom() - h - 6, w, h);
    if (box.left() < at.left() || box.right() > at.right()) return;  // no room on that side
    p.fillRect(box, QColor(0, 0, 0, 150));
    p.setPen(current_lighting() == Lighting::Lamp ? c.ink : QColor(Qt::white));
    p.drawText(box, Qt::AlignCenter, text);
  };
  if (only_as_shot_) return label(say_q("as shot"), true, at.right());
  p.setPen(QPen(c.here, 2));
  p.drawLine(line, at.top(), line, at.bottom());
  label(say_q("as shot"), true, line);
  label(say_q("developed"), false, line);
}

void SplitView::resizeEvent(QResizeEvent*) {
  emit resized();
}

QPointF SplitView::share_of(const QPointF& at) const {
  const QRect p = place();
  return {std::clamp((at.x() - p.left()) / std::max(1, p.width()), 0.0, 0.9999),
          std::clamp((at.y() - p.top()) / std::max(1, p.height()), 0.0, 0.9999)};
}

void SplitView::mousePressEvent(QMouseEvent* event) {
  if (as_shot_.isNull() || event->button() != Qt::LeftButton) return;
  began_ = share_of(event->position());
  if (drag_ == Drag::Pick || drag_ == Drag::Rings) {
    emit picked(began_);
    return;
  }
  if (drag_ != Drag::Split) marking_.assign(kAcross * kDown, false);
  go_on(event);
}

void SplitView::mouseMoveEvent(QMouseEvent* event) {
  if (as_shot_.isNull() || !(event->buttons() & Qt::LeftButton) || drag_ == Drag::Pick ||
      drag_ == Drag::Rings)
    return;
  go_on(event);
}

void SplitView::go_on(QMouseEvent* event) {
  const QPointF at = share_of(event->position());
  if (drag_ == Drag::Split) {
    split_ = std::clamp(at.x(), 0.02, 0.98);
  } else if (!marking_.empty()) {
    if (drag_ == Drag::Box) marking_.assign(marking_.size(), false);
    const QPointF from = drag_ == Drag::Box ? began_ : at;
    const int left = static_cast<int>(std::min(from.x(), at.x()) * kAcross);
    const int right = static_cast<int>(std::max(from.x(), at.x()) * kAcross);
    const int top = static_cast<int>(std::min(from.y(), at.y()) * kDown);
    const int bottom = static_cast<int>(std::max(from.y(), at.y()) * kDown);
    for (int y = top; y <= bottom; ++y)
      for (int x = left; x <= right; ++x) marking_[static_cast<size_t>(y * kAcross + x)] = true;
  }
  update();
}

void SplitView::mouseReleaseEvent(QMouseEvent*) {
  if (marking_.empty()) return;
  std::vector<int> parts;
  for (size_t i = 0; i < marking_.size(); ++i)
    if (marking_[i]) parts.push_back(static_cast<int>(i));
  marking_.clear();
  update();
  if (!parts.empty()) emit marked(parts);
}

}  // namespace askcount::app

#include "moc_split_view.cpp"
