// SPDX-License-Identifier: GPL-3.0-or-later
// Two test pictures with the motion between them drawn on; drag from where a thing was to where it is.
#pragma once

#include <optional>
#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

/// Shows the second picture, with where things came from in the first.
class PicturesView : public QWidget {
 public:
  PicturesView(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {360, 200}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;

 private:
  QRectF picture_place() const;

  Session& session_;
  std::optional<QPointF> from_, to_;
};

}  // namespace askcount::app
