// SPDX-License-Identifier: GPL-3.0-or-later
// Will it last: each budget as a bar with the take's end marked on it.
#pragma once

#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

class BudgetBars : public QWidget {
 public:
  BudgetBars(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {360, 170}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  Session& session_;
};

}  // namespace askcount::app
