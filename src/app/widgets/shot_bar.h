// SPDX-License-Identifier: GPL-3.0-or-later
// One interval to scale: shutter open, writing, free; interval and gap both named.
#pragma once

#include <QWidget>

namespace askcount::app {

class ShotBar : public QWidget {
 public:
  explicit ShotBar(QWidget* parent = nullptr);
  /// All in seconds; `at_most` where the shutter grows to `open_s` on the way.
  void set(double open_s, double writing_s, double interval_s, bool at_most = false);
  QSize sizeHint() const override { return {500, 96}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  double open_s_ = 0, writing_s_ = 0, interval_s_ = 0;
  bool at_most_ = false;
};

}  // namespace askcount::app
