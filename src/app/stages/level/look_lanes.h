// SPDX-License-Identifier: GPL-3.0-or-later
// The values of the look that were changed as lanes over the film, with their anchors.
#pragma once

#include <QWidget>
#include <vector>

#include "app/session/session.h"
#include "app/widgets/keys.h"

namespace askcount::app {

/// Drag a lane up or down to change its value at the frame looked at (which becomes an anchor), or turn the
/// wheel over it; a double press types it. Press a frame's number below to go to that anchor. With the focus,
/// Up and Down choose a lane, + and - change it, Return types.
class LookLanes : public QWidget, public Keyed {
  Q_OBJECT
 public:
  LookLanes(Session& session, QWidget* parent);
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override;
  /// The lane that keys change.
  int chosen() const { return chosen_; }
  void choose(int lane);
  /// Which lanes are there, by their places in look::lanes(), in that order.
  void show_lanes(const std::vector<int>& lanes);
  const std::vector<int>& shown() const { return shown_; }
  /// Where a lane lies, and where the film's frame lies across it; nowhere for one that is not shown.
  QRectF lane_rect(int lane) const;
  double x_of(long long frame) const;

  /// Changes a value at the frame looked at, as far as its range goes; one step that can be undone for each
  /// `drag`.
  void change(int lane, double value, const QString& drag = {});
  /// Changes it by steps of its own; the same.
  void step(int lane, int steps, const QString& drag);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void say_keys();
  void draw_lane(QPainter& p, int lane) const;
  void draw_anchors(QPainter& p) const;
  long long frames() const;
  long long frame_at(double x) const;
  int lane_at(double y) const;
  double value_now(int lane) const;
  void type(int lane);

  Session& session_;
  std::vector<int> shown_;
  int chosen_ = 0, dragging_ = -1;
  double drag_from_ = 0, drag_value_ = 0;
};

/// A value as the lane shows it: "+0.50 stops", "5,600 K", "1.10 ×", or "as shot".
QString lane_value(const look::Lane& lane, double value, double as_shot_k);
/// What was typed for one; its neutral value for no words or "as shot". Throws BadInput.
double typed_value(const look::Lane& lane, const QString& text);

}  // namespace askcount::app
