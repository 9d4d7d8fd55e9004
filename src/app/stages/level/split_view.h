// One frame as shot and levelled, side by side along a line that can be dragged.
#pragma once

#include <QImage>
#include <QWidget>

namespace askcount::app {

class SplitView : public QWidget {
 public:
  explicit SplitView(QWidget* parent);
  /// Null images leave what was there.
  void set(const QImage& as_shot, const QImage& levelled);
  QSize sizeHint() const override { return {480, 300}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override { drag(event); }
  void mouseMoveEvent(QMouseEvent* event) override { drag(event); }

 private:
  void drag(QMouseEvent* event);
  QRect place() const;

  QImage as_shot_, levelled_;
  double split_ = 0.5;
};

}  // namespace askcount::app
