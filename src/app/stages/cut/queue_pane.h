// SPDX-License-Identifier: GPL-3.0-or-later
// The films that are being made and those that wait.
#pragma once

#include <QVBoxLayout>
#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

/// A line for each batch: what it is, how far it is, and presses to pause it, make it sooner or leave it.
class QueuePane : public QWidget {
  Q_OBJECT
 public:
  QueuePane(Session& session, QWidget* parent);

 private:
  void refresh();
  class Bar;
  Session& session_;
  QVBoxLayout* rows_;
};

}  // namespace askcount::app
