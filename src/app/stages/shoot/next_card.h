// SPDX-License-Identifier: GPL-3.0-or-later
// Do this next: the change that is due, large, with its keys.
#pragma once

#include <QLabel>
#include <QWidget>

#include "advice/next_change.h"
#include "app/session/session.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

class NextCard : public QWidget {
  Q_OBJECT
 public:
  NextCard(Session& session, QWidget* parent);
  /// The change is done, or put off; nothing happens where none can be.
  void change(bool skipped);
  /// A click that nobody asked for, on the camera as it stands.
  void turn(ramp::Dial dial, bool brighter);
  /// Whether a hand is at the dials: something runs by the clock.
  bool by_hand() const;
  /// Looks again: the time goes on.
  void refresh();

 signals:
  void due();  ///< a change is due now; told once for each

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  long long frame() const;
  const ramp::Ramp* ramp();
  advice::NextChange next();

  Session& session_;
  QLabel *next_, *why_;
  PressButton *done_, *skip_;
  long long told_ = -1;             // the frame that due() was told for
  std::optional<ramp::Ramp> ramp_;  // beside a real camera, by the real hour
  take::Take ramp_take_;
  Instant ramp_from_;
};

}  // namespace askcount::app
