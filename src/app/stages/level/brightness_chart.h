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
  QRectF plot() const;
  void scrub(QMouseEvent* event);

  Session& session_;
};

}  // namespace askcount::app
