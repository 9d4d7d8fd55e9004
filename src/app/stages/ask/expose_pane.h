// SPDX-License-Identifier: GPL-3.0-or-later
// Exposure and focus: what to frame and focus by, stars, depth of field, close-ups.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class ExposePane : public QWidget {
 public:
  ExposePane(Session& session, QWidget* parent);

 private:
  void make_sentence();
  void wire_slots();
  void refresh();

  Session& session_;
  Sentence* sentence_;
  SlotField *test_, *lens_, *declination_, *drift_, *rule500_, *rule600_, *rule_pitch_, *distance_, *depth_,
      *hyperfocal_, *magnification_, *close_, *grows_, *refocus_;
};

}  // namespace askcount::app
