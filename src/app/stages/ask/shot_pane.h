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
  void refresh();
  SlotField* number(const QString& name, std::function<double(const take::Take&)> get,
                    std::function<void(take::Take&, double)> set, double step, double low, double high,
                    std::function<QString(double)> words);

  struct Number {
    std::function<double(const take::Take&)> get;
    std::function<QString(double)> words;
  };
  Session& session_;
  Sentence* sentence_;
  std::map<SlotField*, Number> numbers_;
  SlotField *dark_, *files_, *cards_, *power_, *lamp_, *work_;
  ShotBar* bar_;
  QLabel* swaps_;
};

}  // namespace askcount::app
