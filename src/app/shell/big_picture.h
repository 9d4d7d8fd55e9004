// SPDX-License-Identifier: GPL-3.0-or-later
// The picture of a stage on the whole screen, or in a window of its own; the film's line below it.
#pragma once

#include <QPointer>
#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/picture_place.h"

namespace askcount::app {

class Stage;

/// Holds a stage's picture for as long as it is open, with the playhead and one line of words below. All
/// keys go on to the main window, but Escape and F11: Escape closes it, F11 goes from a window to the whole
/// screen and back.
class BigPicture : public QWidget {
  Q_OBJECT
 public:
  enum class As { WholeScreen, Window };

  /// `main` gets the keys; it outlives this.
  BigPicture(Session& session, QWidget* main);
  ~BigPicture() override;

  /// Shows the picture of a stage, in place of the one before; without one it closes.
  void show_stage(Stage* stage);
  void open(Stage* stage, As as);
  void close_picture();
  /// F11: a window goes to the whole screen and back, a picture on the whole screen goes back to its stage.
  void whole_screen_or_back();
  bool is_open() const { return stage_ != nullptr; }
  /// Says anew what the stage says of its picture.
  void refresh();

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void keyReleaseEvent(QKeyEvent* event) override;
  void closeEvent(QCloseEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

 private:
  class Line;
  void lay_out();
  void give_back();

  Session& session_;
  QWidget* main_;
  QPointer<Stage> stage_;
  QPointer<PicturePlace> place_;
  Line* line_;
  As as_ = As::WholeScreen;
};

}  // namespace askcount::app
