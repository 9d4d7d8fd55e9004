// SPDX-License-Identifier: GPL-3.0-or-later
// The rule of the clicks in a sentence, and the methods compared on the same light.
#pragma once

#include <QLabel>
#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class RulePane : public QWidget {
 public:
  RulePane(Session& session, QWidget* parent);

 private:
  void make_sentence();
  void wire_clicks();
  void wire_dials();
  void wire_rest();
  void refresh();

  Session& session_;
  Sentence* sentence_;
  SlotField *method_, *filters_, *night_, *apart_, *late_, *low_, *high_, *order_, *longest_, *start_f_,
      *widest_, *iso_, *turning_;
  QLabel* methods_[3];
};

}  // namespace askcount::app
