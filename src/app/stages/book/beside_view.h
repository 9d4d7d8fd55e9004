// SPDX-License-Identifier: GPL-3.0-or-later
// Two takes laid side by side, or one by itself: plan and outcome line by line.
#pragma once

#include <QScrollArea>

#include "book/entry.h"

namespace askcount::app {

class BesideView : public QScrollArea {
  Q_OBJECT
 public:
  explicit BesideView(QWidget* parent);
  void show_takes(const std::vector<book::Entry>& takes);
};

}  // namespace askcount::app
