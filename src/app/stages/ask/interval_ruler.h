// SPDX-License-Identifier: GPL-3.0-or-later
// The interval on a logarithmic ruler, with what forbids it.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/keys.h"

namespace askcount::app {

/// Drag the marker, or step it with the arrows, to set the interval.
class IntervalRuler : public QWidget, public Keyed {
  Q_OBJECT
 public:
  IntervalRuler(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {800, 106}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override { drag_to(event); }
  void mouseMoveEvent(QMouseEvent* event) override { drag_to(event); }
  void mouseReleaseEvent(QMouseEvent*) override { session_.document.end_drag(); }
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void say_keys();
  void paint_track(QPainter& p);
  void paint_closed(QPainter& p, double from, double to, const QString& why, double words_at);
  void paint_limits(QPainter& p, const plan::Sums& sums);
  void paint_habits(QPainter& p, const plan::Sums& sums);
  void paint_measures(QPainter& p, const plan::Sums& sums);
  void paint_marker(QPainter& p, const plan::Sums& sums);
  void drag_to(QMouseEvent* event);
  double x_of(double interval) const;

  Session& session_;
};

}  // namespace askcount::app
