// SPDX-License-Identifier: GPL-3.0-or-later
// The light and the dials over field time: the scene's EV with the band, and a lane for each dial.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/keys.h"

namespace askcount::app {

/// Drag a click along its lane; with the focus N and P choose one and Ctrl+arrows move it by a frame.
class RampChart : public QWidget, public Keyed {
  Q_OBJECT
 public:
  RampChart(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {900, 250}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  double x_of(double frame) const;
  double frame_at(double x) const;
  QRectF curve() const;
  QRectF lane(int index) const;
  struct Scale;
  void paint_curve(QPainter& p, const ramp::Ramp& ramp);
  void paint_rulings(QPainter& p, const Scale& scale);
  void paint_lines(QPainter& p, const ramp::Ramp& ramp, const Scale& scale);
  void paint_names(QPainter& p, const ramp::Ramp& ramp, const Scale& scale);
  void paint_here(QPainter& p, const ramp::Ramp& ramp);
  void paint_lanes(QPainter& p, const ramp::Ramp& ramp);
  void move_click(int index, long long frame);

  Session& session_;
  int chosen_ = -1;
  bool dragging_ = false;
};

}  // namespace askcount::app
