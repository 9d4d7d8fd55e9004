// SPDX-License-Identifier: GPL-3.0-or-later
// Ways to get the clip side by side, and four intervals beside each other.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/keys.h"

namespace askcount::app {

/// The table of intervals can be chosen from: a click takes one.
class WaysPane : public QWidget, public Keyed {
 public:
  WaysPane(Session& session, QWidget* parent);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  std::vector<double> intervals() const;
  double split() const { return width() * 0.53; }
  QRectF column(int index) const;

  Session& session_;
  int at_ = 0;
};

}  // namespace askcount::app
