// SPDX-License-Identifier: GPL-3.0-or-later
// A take told by hand: one that Ask Count had no part in.
#pragma once

#include <optional>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>

#include "app/session/session.h"
#include "book/entry.h"

namespace askcount::app {

/// Asks for what is known of it; only the name must be. What cannot be read is said in the dialog, and the
/// line it stands in has the focus then.
class HandDialog : public QDialog {
  Q_OBJECT
 public:
  HandDialog(const Session& session, QWidget* parent);

  /// What was told, once it was accepted.
  const book::Entry& entry() const { return entry_; }

  void accept() override;

 private:
  QLineEdit* line(const char* name, const QString& label, const QString& like);
  book::Entry read();

  const Session& session_;
  QLineEdit *name_, *subject_, *place_, *start_, *frames_, *interval_, *fps_;
  QLineEdit* reading_ = nullptr;
  QLabel* said_;
  book::Entry entry_;
};

}  // namespace askcount::app
