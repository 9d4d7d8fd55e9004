// The take's frames as a strip, with what was left out before and after it.
#pragma once

#include <QWidget>

#include "app/session/frame_pictures.h"
#include "app/session/session.h"

namespace askcount::app {

/// Rows of thumbnails: as many as fit, evenly chosen from the take, the dropped pictures at their ends. Click
/// to look at a frame.
class FilmStrip : public QWidget {
  Q_OBJECT
 public:
  FilmStrip(Session& session, FramePictures& pictures, QWidget* parent);
  QSize sizeHint() const override { return {900, 250}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  /// One cell: a frame of the take, or a dropped picture.
  struct Cell {
    source::Frame picture;
    long long frame = -1;  // of the take, from 0
    QString label;
    const gather::Dropped* dropped = nullptr;
    QRectF at;
  };
  std::vector<Cell> cells() const;

  Session& session_;
  FramePictures& pictures_;
};

}  // namespace askcount::app
