// SPDX-License-Identifier: GPL-3.0-or-later
// One frame as shot and developed, side by side along a line that can be dragged; parts of it can be marked.
#pragma once

#include <QImage>
#include <QWidget>
#include <vector>

namespace askcount::app {

class SplitView : public QWidget {
  Q_OBJECT
 public:
  /// What a drag does.
  enum class Drag { Split, Box, Brush, Pick, Rings };

  explicit SplitView(QWidget* parent);
  /// Null images leave what was there.
  void set(const QImage& as_shot, const QImage& developed);
  /// Another take's: nothing is shown until set().
  void clear();
  /// Shows all of it as shot, as long as that is on.
  void set_as_shot(bool on);
  /// The parts of the picture that are measured (image::Luminance's, in order); empty for all.
  void set_measured(const std::vector<bool>& measured);
  /// Rings drawn over the picture: middles in shares of it, radii in shares of its width.
  struct Ring {
    QPointF middle;
    double radius = 0;
  };
  void set_rings(const std::vector<Ring>& rings);
  void set_drag(Drag drag);
  Drag drag() const { return drag_; }
  /// Where the picture lies in this widget.
  QRect place() const;
  QSize sizeHint() const override { return {480, 300}; }

 signals:
  /// Parts were marked by a drag that has just ended.
  void marked(std::vector<int> parts);
  /// A place was pressed (to pick it, or by the rings), as shares of width and height.
  void picked(QPointF place);
  void resized();

 protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;

 private:
  QPointF share_of(const QPointF& at) const;
  void go_on(QMouseEvent* event);
  void draw_parts(QPainter& p, const QRect& at) const;

  QImage as_shot_, developed_;
  double split_ = 0.5;
  bool only_as_shot_ = false;
  Drag drag_ = Drag::Split;
  std::vector<bool> measured_, marking_;
  std::vector<Ring> rings_;
  QPointF began_;
};

}  // namespace askcount::app
