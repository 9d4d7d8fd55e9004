// SPDX-License-Identifier: GPL-3.0-or-later
// To take along: sheets, lists and a calendar entry, written where the person says.
#pragma once

#include <QLabel>
#include <QWidget>

#include "app/session/session.h"

namespace askcount::app {

class TakeAlongPane : public QWidget {
 public:
  TakeAlongPane(Session& session, QWidget* parent);

 private:
  /// Asks for a name and writes; says what was written or why not.
  void write(const QString& what, const QString& ending,
             const std::function<void(const std::filesystem::path&)>& how);

  Session& session_;
  QLabel* said_;
};

}  // namespace askcount::app
