// SPDX-License-Identifier: GPL-3.0-or-later
// The brightness of every frame over film time, as shot and levelled, with the clicks of the dials below.
#pragma once

#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

/// Drag to scrub.
class BrightnessChart : public QWidget {
  Q_OBJECT
 public:
  BrightnessChart(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {900, 240}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override { scrub(event); }
  void mouseMoveEvent(QMouseEvent* event) override { scrub(event); }

 private:
  /// Where stops of how many frames lie.
  struct Axes {
    QRectF box;
    size_t frames = 0;
    double low = 0, high = 1;
    double x(double frame) const {
      return box.left() + (frame + 0.5) / static_cast<double>(frames) * box.width();
    }
    double y(double stops) const { return box.bottom() - (stops - low) / (high - low) * box.height(); }
    QPolygonF line(const std::vector<double>& values) const;
  };
  /// Lines of stops from the first frame, with room for both curves, which are of the same length.
  Axes draw_axes(QPainter& p, const std::vector<double>& one, const std::vector<double>& other) const;
  /// What Gather's look at the frames tells of their brightness, before they are measured.
  void draw_first(QPainter& p) const;
  QRectF plot() const;
  /// Pixels of the lane of clicks; none where no dial was turned.
  double click_lane() const;
  void scrub(QMouseEvent* event);

  Session& session_;
};

}  // namespace askcount::app
