// SPDX-License-Identifier: GPL-3.0-or-later
// The one kind of button there is.
#pragma once

#include <QPushButton>

namespace askcount::app {

/// A flat button with its words in the colour of field time; `main` ones are filled.
class PressButton : public QPushButton {
 public:
  explicit PressButton(const QString& words, bool main = false, QWidget* parent = nullptr);
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override { return sizeHint(); }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  bool main_;
};

}  // namespace askcount::app
