// Two test pictures with the motion between them drawn on; drag from where a thing was to where it is.
#pragma once

#include <optional>
#include <QTimer>
#include <QWidget>

#include "app/shell/desk.h"

namespace askcount::app {

/// Shows the second picture; press and hold the button of the pane (or B) to see the first.
class PicturesView : public QWidget {
 public:
  PicturesView(Desk& desk, QWidget* parent);
  void show_first(bool first);
  QSize sizeHint() const override { return {360, 200}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;

 private:
  QRectF picture_place() const;

  Desk& desk_;
  bool first_ = false;
  std::optional<QPointF> from_, to_;
};

}  // namespace askcount::app
