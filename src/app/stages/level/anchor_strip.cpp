// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/level/anchor_strip.h"

#include <algorithm>
#include <cmath>
#include <QMouseEvent>
#include <QPainter>

#include "app/style/style.h"
#include "app/style/text.h"
#include "base/units.h"
#include "films/film.h"

namespace askcount::app {
namespace {

constexpr int kWords = 18, kRead = 150;
constexpr size_t kMost = 8;
constexpr double kBetween = 8, kWidest = 130;

}  // namespace

AnchorStrip::AnchorStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setMinimumHeight(62);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setObjectName("anchors");
  setAccessibleName(say_q("Anchors side by side"));
  connect(&session.levelling, &Levelling::looks_changed, this, qOverload<>(&QWidget::update));
  connect(&session.levelling, &Levelling::changed, this, qOverload<>(&QWidget::update));
  connect(&session.playhead, &Playhead::moved, this, qOverload<>(&QWidget::update));
  connect(&pictures_, &Darkroom::ready, this, qOverload<>(&QWidget::update));
  connect(&session.optics, &Optics::changed, this, [this, &session] {
    pictures_.read_through(session.optics.source());
    update();
  });
}

bool AnchorStrip::offers() const {
  return session_.levelling.looks().anchors.empty();
}

std::vector<long long> AnchorStrip::shown() const {
  std::vector<long long> all, list;
  if (offers()) {
    if (session_.levelling.evenness())
      for (const size_t n : films::suggested_anchors(*session_.levelling.evenness()))
        all.push_back(static_cast<long long>(n));
  } else {
    for (const look::Anchor& a : session_.levelling.looks().anchors)
      if (a.frame < session_.playhead.count()) all.push_back(a.frame);
  }
  // Of many, those around the frame looked at.
  if (all.size() <= kMost) return all;
  const auto here = std::lower_bound(all.begin(), all.end(), session_.playhead.at()) - all.begin();
  const auto from =
      std::clamp<long>(here - static_cast<long>(kMost / 2), 0, static_cast<long>(all.size() - kMost));
  return {all.begin() + from, all.begin() + from + static_cast<long>(kMost)};
}

QRectF AnchorStrip::place(size_t i, size_t count) const {
  const double each =
      std::min(kWidest, (width() - kBetween * static_cast<double>(count - 1)) / static_cast<double>(count));
  const double shape = std::max(0.3, session_.document.take().film.size.shape());
  const double high = std::min(each / shape, static_cast<double>(height() - kWords));
  const double wide = high * shape;
  return {static_cast<double>(i) * (wide + kBetween), 0, wide, high};
}

QImage AnchorStrip::picture(size_t frame) const {
  const render::FramePlan plan = session_.levelling.plan(frame);
  Drawn& drawn = drawn_[frame];
  if (drawn.image.isNull() || drawn.frames != session_.frames.list() || !(drawn.plan == plan))
    drawn = {session_.frames.list(), plan,
             pictures_.developed((*session_.frames.list())[frame], plan, kRead)};
  return drawn.image;
}

void AnchorStrip::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  const Colours& c = colours();
  const auto frames = shown();
  if (!session_.frames.gathered()) return;
  if (drawn_.size() > 4 * kMost) drawn_.clear();
  if (frames.empty()) {
    p.setPen(c.muted);
    p.setFont(word_font(9.5));
    p.drawText(rect(), Qt::TextWordWrap | Qt::AlignTop | Qt::AlignLeft,
               say_q("The light stays within what one look covers. Press A to set an anchor at a frame."));
    return;
  }
  p.setFont(word_font(9));
  for (size_t i = 0; i < frames.size(); ++i) {
    const auto n = static_cast<size_t>(frames[i]);
    const QRectF at = place(i, frames.size());
    const QImage picture = this->picture(n);
    p.fillRect(at, c.well);
    if (!picture.isNull()) p.drawImage(at, shown_picture(picture));
    const bool here = frames[i] == session_.playhead.at();
    if (offers()) p.fillRect(at, QColor(c.paper.red(), c.paper.green(), c.paper.blue(), 90));
    if (here) {
      p.setPen(QPen(c.here, 2));
      p.drawRect(at.adjusted(1, 1, -1, -1));
    }
    p.setPen(here ? c.here : c.muted);
    const QString words =
        (at.width() > 56 ? say_q("frame ") : "") + QString::fromStdString(format_count(frames[i] + 1));
    p.drawText(QRectF(at.left(), at.bottom() + 2, at.width(), kWords - 2), Qt::AlignCenter, words);
  }
}

void AnchorStrip::mousePressEvent(QMouseEvent* event) {
  const auto frames = shown();
  for (size_t i = 0; i < frames.size(); ++i)
    if (place(i, frames.size()).contains(event->position())) session_.playhead.set(frames[i]);
}

}  // namespace askcount::app

#include "moc_anchor_strip.cpp"
