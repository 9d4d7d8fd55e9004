// SPDX-License-Identifier: GPL-3.0-or-later
// How the camera moved through the take: measured once, for every film that is steadied.
#pragma once

#include <optional>
#include <QObject>
#include <vector>

#include "app/session/frames.h"
#include "app/session/job.h"
#include "app/session/optics.h"
#include "motion/camera_path.h"

namespace askcount::app {

/// What was measured, as long as it is of these frames, read as they are now.
class CameraWay : public QObject {
  Q_OBJECT
 public:
  CameraWay(Frames& frames, Optics& optics, QObject* parent = nullptr);

  /// A pose for every frame; nothing where it has not been measured.
  const std::optional<std::vector<motion::Pose>>& path() const { return path_; }
  /// Measures beside whatever else goes on, fine enough for a film of this width; changed() tells when it is
  /// through. Nothing happens where it is known that finely, or is being measured.
  void want(int film_width);
  bool measuring() const { return job_.running(); }
  const Job& job() const { return job_; }

 signals:
  void changed();
  void progressed();
  void trouble(QString words);

 private:
  void follow();

  Frames& frames_;
  Optics& optics_;
  Job job_;
  std::optional<std::vector<motion::Pose>> path_;
  media::Frames of_;
  std::shared_ptr<const media::FrameSource> through_;
  int looked_at_ = 0;  // pixels across
};

}  // namespace askcount::app
