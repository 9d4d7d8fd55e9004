// SPDX-License-Identifier: GPL-3.0-or-later
// Measuring the motion: by stopwatch, by two pictures, by speed and distance.
#pragma once

#include <optional>
#include <QTimer>
#include <QWidget>
#include <vector>

#include "app/session/session.h"
#include "app/stages/ask/pictures_view.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

/// T is the stopwatch's key: once when the subject enters the frame, once when it leaves.
class MeasurePane : public QWidget {
  Q_OBJECT
 public:
  MeasurePane(Session& session, QWidget* parent);
  /// T was pressed.
  void tap();

 private:
  void make_sentence();
  void make_buttons(QVBoxLayout* left);
  void wire_speed();
  void refresh();
  void choose_pictures();
  void use(plan::MotionWay way);

  Session& session_;
  Sentence* sentence_;
  SlotField *watch_, *pictures_, *speed_, *distance_, *crosses_;
  PressButton *tap_, *again_, *use_watch_, *choose_, *use_pictures_, *use_speed_;
  PicturesView* view_;
  std::optional<std::int64_t> entered_ms_;  // by ticks_ms(), while the subject is timed
  QTimer running_;
  std::vector<double> taps_;
  double metres_per_s_ = 5, metres_ = 200;
};

}  // namespace askcount::app
