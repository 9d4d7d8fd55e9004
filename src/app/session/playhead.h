// SPDX-License-Identifier: GPL-3.0-or-later
// The frame looked at: every stage shows it.
#pragma once

#include <QObject>

#include "app/session/document.h"
#include "app/session/frames.h"

namespace askcount::app {

/// Counts from 0 to the last frame: of what was gathered, or else of what is planned.
class Playhead : public QObject {
  Q_OBJECT
 public:
  Playhead(Document& document, Frames& frames, QObject* parent = nullptr);

  long long at() const { return at_; }
  /// Moves to a frame, or to the end where it is beyond.
  void set(long long frame);
  /// How many frames there are.
  long long count() const;

 signals:
  void moved();

 private:
  long long clamped(long long frame) const;

  Document& document_;
  Frames& frames_;
  long long at_ = 0;
};

}  // namespace askcount::app
