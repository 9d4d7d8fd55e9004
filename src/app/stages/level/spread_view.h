// SPDX-License-Identifier: GPL-3.0-or-later
// The spread of tones of the frame looked at, by colour, with what clips.
#pragma once

#include <QWidget>

#include "image/spread.h"

namespace askcount::app {

class SpreadView : public QWidget {
 public:
  explicit SpreadView(QWidget* parent);
  void set(const image::Spread& spread);
  QSize sizeHint() const override { return {420, 90}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  image::Spread spread_;
};

}  // namespace askcount::app
