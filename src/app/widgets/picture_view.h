// SPDX-License-Identifier: GPL-3.0-or-later
// A picture fitted into its place, never squashed.
#pragma once

#include <functional>
#include <QImage>
#include <QPointF>
#include <QWidget>

namespace askcount::app {

/// Pixels across that a picture shown in `place` is read with: as many as the screen has there, in steps of
/// 320 from 640 to 1,920.
int pixels_to_read(const QWidget& place);

class PictureView : public QWidget {
 public:
  explicit PictureView(QWidget* parent = nullptr);
  /// `words` stand where there is no picture yet.
  void set(const QImage& image, const QString& words = {});
  /// Whether a picture is shown, and not words.
  bool has_picture() const { return !image_.isNull(); }
  /// Where the pointer was last over it, as a share of width and height; the middle before that.
  QPointF pointed() const { return pointed_; }
  /// Calls `moved` whenever the pointer moves over it.
  void follow_pointer(std::function<void()> moved);
  /// The place the picture takes, in this widget.
  QRect picture_rect() const;
  QSize sizeHint() const override { return {480, 320}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;

 private:
  QImage image_;
  QString words_;
  QPointF pointed_{0.5, 0.5};
  std::function<void()> moved_;
};

}  // namespace askcount::app
