// The head of Shoot: the frame, how many, and the time to the next shot as a bar of open, writing and free.
#pragma once

#include <QWidget>

#include "app/shell/desk.h"

namespace askcount::app {

class ShootHead : public QWidget {
 public:
  ShootHead(Desk& desk, QWidget* parent);
  /// An alarm that can be seen: the head is turned round for a moment.
  void flash(bool on);
  QSize sizeHint() const override { return {900, 158}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  Desk& desk_;
  bool flash_ = false;
};

}  // namespace askcount::app
