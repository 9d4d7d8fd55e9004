// When to shoot: windows of the day with their reasons, one press to take; the best nights of the coming
// month.
#pragma once

#include <QVBoxLayout>
#include <QWidget>

#include "app/shell/desk.h"

namespace askcount::app {

class WhenPane : public QWidget {
 public:
  WhenPane(Desk& desk, QWidget* parent);

 private:
  void refresh();
  void row(QVBoxLayout* into, const QString& title, const QString& text, Instant start, const QString& press);

  Desk& desk_;
  QVBoxLayout *windows_, *nights_;
  QString shown_;
};

}  // namespace askcount::app
