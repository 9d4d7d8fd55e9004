// SPDX-License-Identifier: GPL-3.0-or-later
// What a stage shows while there is nothing for it to work on: what to do, with the buttons that do it.
#pragma once

#include <optional>
#include <QVBoxLayout>
#include <QWidget>

#include "app/stages/stage.h"

namespace askcount::app {

/// Lies over the work area while a note is set.
class EmptyPage : public QWidget {
  Q_OBJECT
 public:
  explicit EmptyPage(QWidget* over);
  /// Shows the note, or goes away.
  void set_note(const std::optional<EmptyNote>& note);

 signals:
  void pressed(EmptyNote::Way way);
  void said(const QString& words);  ///< what was asked for was typed, and Return pressed

 protected:
  void paintEvent(QPaintEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  std::optional<EmptyNote> note_;
  QVBoxLayout* rows_;
  QWidget* content_ = nullptr;
};

}  // namespace askcount::app
