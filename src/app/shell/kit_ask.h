// SPDX-License-Identifier: GPL-3.0-or-later
// The kit without a form: told by photographs, and what is left asked one thing at a time.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QWidget>

#include "app/session/job.h"
#include "app/session/session.h"
#include "app/widgets/press_button.h"
#include "forecast/kit_questions.h"

namespace askcount::app {

/// Takes photographs that are chosen or dropped, and shows the question that weighs most in the open take.
class KitAsk : public QWidget {
  Q_OBJECT
 public:
  KitAsk(Session& session, QWidget* parent);

  /// Puts what photographs (files or folders) tell into the take's kit, as one step that can be undone.
  void read(const std::vector<std::filesystem::path>& photographs);

 private:
  void refresh();
  void answer();

  Session& session_;
  Job job_;
  std::vector<forecast::KitQuestion> questions_;
  size_t at_ = 0;  // of them, the one that is asked
  QString told_;
  PressButton *choose_, *put_, *later_;
  QLabel *words_, *ask_, *unit_, *why_;
  QLineEdit* value_;
};

}  // namespace askcount::app
