// The checklist of camera and rig: each thing with its reason and a tick that carries the time.
#pragma once

#include <QScrollArea>

#include "app/shell/desk.h"

namespace askcount::app {

class ChecklistPane : public QScrollArea {
 public:
  ChecklistPane(Desk& desk, QWidget* parent);

 private:
  void refresh();

  Desk& desk_;
  QString shown_;
};

}  // namespace askcount::app
