// SPDX-License-Identifier: GPL-3.0-or-later
// What lens and sensor did to every frame, and how it is undone.
#pragma once

#include <QLabel>

#include "app/session/session.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class LensPanel : public QWidget {
  Q_OBJECT
 public:
  LensPanel(Session& session, QWidget* parent);

 private:
  void make_sentence();
  void refresh();
  void show_dark_menu();
  QString lens_words() const;

  Session& session_;
  Sentence* sentence_;
  SlotField *how_, *lens_, *distortion_, *dark_corners_, *turn_, *eye_;
  QLabel *record_, *found_;
  PressButton *find_, *forget_, *dark_menu_;
};

}  // namespace askcount::app
