// SPDX-License-Identifier: GPL-3.0-or-later
// The layout of the stages where pictures are judged: the picture first, what is said of it beside it, and
// what runs along the film below.
#pragma once

#include <QWidget>

namespace askcount::app {

/// Gives the picture at least kShare of the window's width, in the picture's own shape, and more where the
/// window is large enough for what is below to have its wanted height all the same. What is below has at
/// least its smallest height; a tall picture is narrower for it.
class PictureFirst : public QWidget {
  Q_OBJECT
 public:
  static constexpr double kShare = 0.556;

  explicit PictureFirst(QWidget* parent);
  /// Takes the three as its children.
  void set(QWidget* picture, QWidget* side, QWidget* below);
  /// A line right below the picture, as wide as it.
  void set_strip(QWidget* strip);
  /// The picture's width divided by its height, from 0.5 to 3.
  void set_shape(double shape);
  /// In large type the side is taller than the picture; then so is this.
  QSize minimumSizeHint() const override;

 protected:
  void resizeEvent(QResizeEvent* event) override;
  bool event(QEvent* event) override;

 private:
  void lay_out();

  QWidget *picture_ = nullptr, *side_ = nullptr, *below_ = nullptr, *strip_ = nullptr;
  double shape_ = 1.5;
};

}  // namespace askcount::app
