// SPDX-License-Identifier: GPL-3.0-or-later
// Where the light comes from, and the weather that is expected.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class WeatherPane : public QWidget {
 public:
  WeatherPane(Session& session, QWidget* parent);

 private:
  void make_light();
  QLayout* make_buttons();
  void make_weather();
  void wire_light();
  void wire_weather();
  void refresh();
  void read_csv();
  void read_frames();
  void write_csv();

  Session& session_;
  Sentence *light_, *weather_;
  SlotField *cover_, *town_, *meter_, *dark_, *shows_, *readings_, *air_, *damp_, *cooling_, *wind_, *tripod_,
      *heater_;
  PressButton *csv_, *frames_, *write_, *forget_;
};

}  // namespace askcount::app
