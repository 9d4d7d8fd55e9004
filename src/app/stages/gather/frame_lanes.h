// SPDX-License-Identifier: GPL-3.0-or-later
// What happened to every frame: lanes on the field's axis.
#pragma once

#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

/// Beat, still, sharp, clear, alike and exposure, a lane each, with a mark where something is wrong. Click or
/// drag to look at a frame.
class FrameLanes : public QWidget {
  Q_OBJECT
 public:
  FrameLanes(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {900, 190}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override { look_at(event); }
  void mouseMoveEvent(QMouseEvent* event) override { look_at(event); }
  bool event(QEvent* event) override;

 private:
  QRectF lane_rect(int lane) const;
  double x_of(std::size_t frame) const;
  long long frame_at(double x) const;
  void look_at(QMouseEvent* event);
  void draw_lane(QPainter& p, const inspect::Lane& lane, const QRectF& place) const;
  void draw_marks(QPainter& p) const;
  void draw_axis(QPainter& p) const;

  Session& session_;
};

}  // namespace askcount::app
