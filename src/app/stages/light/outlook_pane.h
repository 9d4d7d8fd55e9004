// SPDX-License-Identifier: GPL-3.0-or-later
// The sky over one's own picture: which picture, how its aim is known, and its skyline.
#pragma once

#include "app/session/session.h"
#include "app/stages/light/panorama.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class OutlookPane : public QWidget {
  Q_OBJECT
 public:
  OutlookPane(Session& session, Panorama& panorama, QWidget* parent);

 private:
  void make_sentence();
  QLayout* make_buttons();
  void wire_aim();
  void wire_lens_and_compass();
  void refresh();
  void choose();
  void trace();
  void say_again(const forecast::OutlookSaid& said);

  Session& session_;
  Panorama& panorama_;
  Sentence* sentence_;
  SlotField *picture_, *bearing_, *tilt_, *roll_, *known_, *focal_, *compass_, *variation_;
  PressButton *choose_, *mark_, *trace_, *level_, *away_;
  QLabel* behind_;
};

}  // namespace askcount::app
