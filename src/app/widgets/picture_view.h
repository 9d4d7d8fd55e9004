// A picture fitted into its place, never squashed.
#pragma once

#include <QImage>
#include <QWidget>

namespace askcount::app {

class PictureView : public QWidget {
 public:
  explicit PictureView(QWidget* parent = nullptr);
  /// `words` stand where there is no picture yet.
  void set(const QImage& image, const QString& words = {});
  /// The place the picture takes, in this widget.
  QRect picture_rect() const;
  QSize sizeHint() const override { return {480, 320}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  QImage image_;
  QString words_;
};

}  // namespace askcount::app
