// SPDX-License-Identifier: GPL-3.0-or-later
// Shoot: beside the tripod in the dark. The count, the next thing to do, the log; and the dusk rehearsed.
#pragma once

#include <QTimer>

#include "app/stages/shoot/rehearse_pane.h"
#include "app/stages/stage.h"
#include "app/style/text.h"
#include "app/widgets/word_tabs.h"

namespace askcount::app {

class NextCard;
class RunControls;
class ShootHead;
class ShootLog;

/// D: the change is done. K: skip it. N: a note at this frame. P: pause. A: alarms heard or not.
class ShootStage : public Stage {
  Q_OBJECT
 public:
  ShootStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override {
    return session_.run.active() ? say_q("Running") : say_q("Beside the tripod");
  }
  QString foot() const override;
  bool done() const override {  // frames that were never planned were not shot here
    return session_.frames.gathered().has_value() && session_.document.take().says_plan();
  }
  std::optional<EmptyNote> empty() const override;
  const Keys& keys() const override;
  bool key(QKeyEvent* event) override;

 private:
  void say_keys();
  QWidget* make_page();
  void keep_ticking();
  void alarm();

  WordTabs* tabs_;
  RehearsePane* rehearse_;
  ShootHead* head_;
  NextCard* next_;
  RunControls* controls_;
  ShootLog* log_;
  QTimer tick_;         // while a shoot goes by the clock
  bool heard_ = false;  // alarms are heard
};

}  // namespace askcount::app
