// SPDX-License-Identifier: GPL-3.0-or-later
// What was done and noted so far, and a line to note more.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

class ShootLog : public QWidget {
 public:
  ShootLog(Session& session, QWidget* parent);
  /// Puts the cursor where a note is written.
  void write_note() { note_->setFocus(); }

 private:
  void refresh();

  Session& session_;
  QLabel* log_;
  QLineEdit* note_;
};

}  // namespace askcount::app
