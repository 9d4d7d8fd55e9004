// SPDX-License-Identifier: GPL-3.0-or-later
// The subject as the clip will show it: true step, true trail, at the film's frame rate.
#pragma once

#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

/// Stands still until asked to play; then every tick is one frame of the film.
class MotionView : public QWidget {
  Q_OBJECT
 public:
  MotionView(Session& session, QWidget* parent);
  void toggle();
  bool playing() const { return timer_.isActive(); }
  QSize sizeHint() const override { return {520, 170}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent*) override { toggle(); }
  void hideEvent(QHideEvent*) override { timer_.stop(); }

 private:
  struct Drawn;
  void paint_ground(QPainter& p);
  void paint_part(QPainter& p, const Drawn& drawn, double x, double strength);
  void paint_exposure(QPainter& p, const Drawn& drawn, double x, double strength);
  void paint_neighbours(QPainter& p, const Drawn& drawn);
  void paint_play(QPainter& p, FrameRate fps);

  Session& session_;
  QTimer timer_;
  QElapsedTimer clock_;
};

}  // namespace askcount::app
