// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/playhead.h"

#include <algorithm>

namespace askcount::app {

Playhead::Playhead(Document& document, Frames& frames, QObject* parent)
    : QObject(parent), document_(document), frames_(frames) {
  connect(&document, &Document::replaced, this, [this] { at_ = 0; });
  const auto stay = [this] { at_ = clamped(at_); };  // whoever shows frames is told of the change itself
  connect(&document, &Document::changed, this, stay);
  connect(&frames, &Frames::changed, this, stay);
}

long long Playhead::count() const {
  if (frames_.gathered()) return static_cast<long long>(frames_.list()->size());
  return document_.sums() ? document_.sums()->frames : 0;
}

long long Playhead::clamped(long long frame) const {
  return std::clamp(frame, 0LL, std::max(0LL, count() - 1));
}

void Playhead::set(long long frame) {
  frame = clamped(frame);
  if (frame == at_) return;
  at_ = frame;
  emit moved();
}

}  // namespace askcount::app

#include "moc_playhead.cpp"
