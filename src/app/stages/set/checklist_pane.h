// SPDX-License-Identifier: GPL-3.0-or-later
// The checklist of camera and rig: each thing with its reason and a tick that carries the time.
#pragma once

#include <QScrollArea>

#include "app/session/session.h"

namespace askcount::app {

class ChecklistPane : public QScrollArea {
 public:
  ChecklistPane(Session& session, QWidget* parent);

 private:
  void refresh();

  Session& session_;
  QString shown_;
};

}  // namespace askcount::app
