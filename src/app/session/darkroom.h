// SPDX-License-Identifier: GPL-3.0-or-later
// Frames developed for the window while the person changes their look.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <QImage>
#include <QObject>

#include "app/session/read_cache.h"
#include "media/frame_source.h"
#include "render/plan.h"

namespace askcount::app {

/// Remembers what was read of the last frames, so that another look of one is drawn at once, by the film's
/// own kernel. What is not there yet is read on a thread of its own; ready() tells when it is there.
class Darkroom : public QObject {
  Q_OBJECT
 public:
  explicit Darkroom(QObject* parent = nullptr);

  /// A frame as the film will show it by this plan, up to `width` pixels wide; a null image while it is being
  /// read, one dark pixel where it cannot be.
  QImage developed(const media::Frame& frame, const render::FramePlan& plan, int width);
  /// Linear red, green and blue around a place of the film's part (shares), as shot; nothing while it is not
  /// there.
  std::optional<std::array<double, 3>> light_at(const media::Frame& frame, const render::FramePlan& plan,
                                                int width, const QPointF& place);
  void forget() { frames_.forget(); }
  /// Reads through it from now on; what was read through another is forgotten.
  void read_through(std::shared_ptr<const media::FrameSource> source);

 signals:
  void ready();

 private:
  using Read = std::shared_ptr<const media::Shown>;
  const Read* read(const media::Frame& frame, const render::FramePlan& plan, int width);

  std::shared_ptr<const media::FrameSource> source_;  ///< null for frames as they are
  ReadCache<Read> frames_;
};

}  // namespace askcount::app
