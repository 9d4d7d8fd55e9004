// SPDX-License-Identifier: GPL-3.0-or-later
// All pictures of the take, with what was left out beside them.
#pragma once

#include <optional>
#include <QAbstractScrollArea>

#include "app/session/frame_pictures.h"
#include "app/session/session.h"

namespace askcount::app {

/// Rows of thumbnails that scroll; only those in sight are read and drawn, whatever their number. Pictures
/// that were left out stand where they were shot. Click to look at a frame; a left-out one is then chosen.
class ContactSheet : public QAbstractScrollArea {
  Q_OBJECT
 public:
  ContactSheet(Session& session, FramePictures& pictures, QWidget* parent);
  QSize sizeHint() const override { return {900, 250}; }
  /// The left-out picture that was chosen last; null where a frame was.
  const ingest::Dropped* chosen() const;

 signals:
  void chosen_changed();

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  /// One cell: a frame of the take (from 0), or a left-out picture.
  struct Cell {
    long long frame = -1;
    std::size_t dropped = 0;
  };
  void arrange();
  void follow();
  int across() const;
  QRectF place(std::size_t cell) const;
  void draw(QPainter& p, const Cell& cell, const QRectF& at) const;

  Session& session_;
  FramePictures& pictures_;
  std::vector<Cell> cells_;
  std::vector<std::size_t> cell_of_frame_;
  std::optional<std::size_t> chosen_;  // of the left out
};

}  // namespace askcount::app
