// Do this next: the change that is due, large, with its keys.
#pragma once

#include <QLabel>
#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

class NextCard : public QWidget {
  Q_OBJECT
 public:
  NextCard(Session& session, QWidget* parent);
  /// The change is done, or left out; nothing happens where none can be.
  void change(bool skipped);
  /// Looks again: the time goes on.
  void refresh();

 signals:
  void due();  ///< a change is due now; told once for each

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  long long frame() const;

  Session& session_;
  QLabel *next_, *why_;
  PressButton *done_, *skip_;
  long long told_ = -1;  // the click that due() was told for
};

}  // namespace askcount::app
