// SPDX-License-Identifier: GPL-3.0-or-later
// Frames as pictures for the window, read beside it.
#pragma once

#include <functional>
#include <QImage>
#include <QObject>

#include "app/session/read_cache.h"
#include "media/frame.h"

namespace askcount::app {

/// Draws frames small, as they were shot (Darkroom develops them), on a thread of its own, and remembers the
/// last ones. Ask for what is to be shown now; ready() tells when it is there.
class FramePictures : public QObject {
  Q_OBJECT
 public:
  explicit FramePictures(QObject* parent = nullptr);

  /// All of the frame as it was shot, up to `width` pixels wide; a null image while it is being read. A file
  /// that cannot be read gives an image of one dark pixel.
  QImage picture(const media::Frame& frame, int width);
  /// The frame pixel for pixel around a place (a share of its width and height), as much as `room` shows.
  QImage pixels(const media::Frame& frame, const QSize& room, const QPointF& around);
  /// The embedded thumbnail, or the frame very small.
  QImage thumbnail(const media::Frame& frame);
  void forget() { images_.forget(); }

 signals:
  void ready();

 private:
  QImage wanted(const QString& key, const std::function<QImage()>& read);

  ReadCache<QImage> images_;
};

}  // namespace askcount::app
