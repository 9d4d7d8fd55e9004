// SPDX-License-Identifier: GPL-3.0-or-later
// One shot and the outing: brackets, dark frames, files, time at the dials, spare frames, weather and power.
#pragma once

#include <map>
#include <QLabel>
#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/sentence.h"
#include "app/widgets/shot_bar.h"

namespace askcount::app {

class ShotPane : public QWidget {
 public:
  ShotPane(Session& session, QWidget* parent);

 private:
  void add_shot();
  void add_outing();
  void add_slider();
  void wire_choices();
  void refresh();
  /// A slot with a number of the take: from where to where, and in which steps.
  struct Number {
    QString name;
    std::function<double(const take::Take&)> get;
    std::function<void(take::Take&, double)> set;
    double step = 1, low = 0, high = 0;
    std::function<QString(double)> words;
  };
  SlotField* number(const Number& number);

  Session& session_;
  Sentence* sentence_;
  std::map<SlotField*, Number> numbers_;
  SlotField *dark_, *files_, *cards_, *power_, *lamp_, *work_;
  ShotBar* bar_;
  QLabel* swaps_;
};

}  // namespace askcount::app
