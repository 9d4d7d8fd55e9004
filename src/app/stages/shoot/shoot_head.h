// SPDX-License-Identifier: GPL-3.0-or-later
// The head of Shoot: the frame, how many, and the time to the next shot as a bar of open, writing and free.
#pragma once

#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

class ShootHead : public QWidget {
 public:
  ShootHead(Session& session, QWidget* parent);
  /// An alarm that can be seen: the head is turned round for a moment.
  void flash(bool on);
  QSize sizeHint() const override { return {900, 158}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  /// Seconds one shot is open at a frame.
  double open_at(long long frame, const timer::Program& program) const;
  struct Moment;
  void paint_frame(QPainter& p, const Moment& moment);
  void paint_next(QPainter& p, const Moment& moment);
  void paint_interval(QPainter& p, const Moment& moment);
  QString dials_at(const Moment& moment) const;

  Session& session_;
  bool flash_ = false;
};

}  // namespace askcount::app
