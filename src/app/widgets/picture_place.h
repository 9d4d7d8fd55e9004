// SPDX-License-Identifier: GPL-3.0-or-later
// Where a stage's picture stands, and from where it can be lent to a larger window.
#pragma once

#include <QWidget>

namespace askcount::app {

/// Holds one widget that shows a picture, and fills itself with it. While it is lent out, words stand there
/// and a press asks for it back. A double press on the picture asks for it on the whole screen; the picture
/// gets the press too.
class PicturePlace : public QWidget {
  Q_OBJECT
 public:
  /// Takes `picture` as its child.
  PicturePlace(QWidget* picture, QWidget* parent);
  QWidget* picture() const { return picture_; }
  /// The picture, without a parent, until take_back().
  QWidget* lend();
  void take_back();
  bool lent() const { return lent_; }

 signals:
  void whole_screen_asked();
  void back_asked();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  QWidget* picture_;
  bool lent_ = false, asked_ = false;
};

}  // namespace askcount::app
