// To take along: sheets, lists and a calendar entry, written where the person says.
#pragma once

#include <QLabel>
#include <QWidget>

#include "app/shell/desk.h"

namespace askcount::app {

class TakeAlongPane : public QWidget {
 public:
  TakeAlongPane(Desk& desk, QWidget* parent);

 private:
  /// Asks for a name and writes; says what was written or why not.
  void write(const QString& what, const QString& ending,
             const std::function<void(const std::filesystem::path&)>& how);

  Desk& desk_;
  QLabel* said_;
};

}  // namespace askcount::app
