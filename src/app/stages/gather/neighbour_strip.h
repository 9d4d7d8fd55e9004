// SPDX-License-Identifier: GPL-3.0-or-later
// The frame looked at between its neighbours, as a strip of small pictures.
#pragma once

#include <QWidget>

#include "app/session/frame_pictures.h"
#include "app/session/session.h"

namespace askcount::app {

/// Two frames before it and two after it. Press one to look at it.
class NeighbourStrip : public QWidget {
  Q_OBJECT
 public:
  NeighbourStrip(Session& session, FramePictures& pictures, QWidget* parent);
  QSize sizeHint() const override { return {400, 84}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  QRectF place(int of) const;

  Session& session_;
  FramePictures& pictures_;
};

}  // namespace askcount::app
