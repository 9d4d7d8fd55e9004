// SPDX-License-Identifier: GPL-3.0-or-later
// All anchors side by side, as the film will show them.
#pragma once

#include <map>
#include <QWidget>

#include "app/session/darkroom.h"
#include "app/session/session.h"

namespace askcount::app {

/// Press one to go to it. Where there are none, the frames that are worth an anchor are offered instead.
class AnchorStrip : public QWidget {
  Q_OBJECT
 public:
  AnchorStrip(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {420, 96}; }
  /// The frames shown, and whether they are anchors or only worth one.
  std::vector<long long> shown() const;
  bool offers() const;

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  QRectF place(size_t i, size_t count) const;
  QImage picture(size_t frame) const;

  Session& session_;
  mutable Darkroom pictures_;
  struct Drawn {
    media::Frames frames;
    render::FramePlan plan;
    QImage image;
  };
  mutable std::map<size_t, Drawn> drawn_;  // by frame: drawn anew only where its plan is another
};

}  // namespace askcount::app
