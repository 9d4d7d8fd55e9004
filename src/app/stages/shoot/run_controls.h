// SPDX-License-Identifier: GPL-3.0-or-later
// What is shot with, in a sentence, and the buttons that start, pause and end it.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class RunControls : public QWidget {
 public:
  RunControls(Session& session, QWidget* parent);
  void pause_or_go_on();
  /// Begins typing what the meter says now.
  void meter();
  /// Looks again: the time goes on.
  void refresh();

 private:
  void make_sentence();
  void make_buttons(class QHBoxLayout* into);
  void wire_faults();
  void wire_frame();
  void wire_dials();

  Session& session_;
  ShootWish wish_;
  QString faults_text_;
  Sentence* sentence_;
  SlotField *scene_, *speed_, *limits_, *faults_, *at_, *dials_, *meter_;
  PressButton *start_, *accompany_, *pause_, *stop_, *battery_, *card_, *power_;
};

}  // namespace askcount::app
