// SPDX-License-Identifier: GPL-3.0-or-later
// The newest frame while a take is shot, the frame looked at otherwise, with its spread of tones.
#pragma once

#include <optional>
#include <QLabel>
#include <QWidget>

#include "app/session/frame_pictures.h"
#include "app/session/session.h"
#include "app/stages/shoot/histogram.h"
#include "app/widgets/picture_view.h"

namespace askcount::app {

class NewestFrame : public QWidget {
 public:
  NewestFrame(Session& session, QWidget* parent);

 private:
  void refresh();
  std::optional<media::Frame> newest() const;

  Session& session_;
  FramePictures pictures_;
  QLabel* heading_;
  PictureView* picture_;
  Histogram* histogram_;
};

}  // namespace askcount::app
