// SPDX-License-Identifier: GPL-3.0-or-later
// The spread of tones of a small picture, with what is clipped at either end marked.
#pragma once

#include <array>
#include <QImage>
#include <QWidget>

namespace askcount::app {

class Histogram : public QWidget {
 public:
  explicit Histogram(QWidget* parent);
  void set(const QImage& image);
  QSize sizeHint() const override { return {300, 54}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::array<int, 64> bins_{};
  double dark_ = 0, bright_ = 0;  // shares that are clipped
};

}  // namespace askcount::app
