// SPDX-License-Identifier: GPL-3.0-or-later
// Where the frames come from: cards, folders and films; the camera's clock; the safe copy.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

/// A row of buttons. What is chosen is a value of the take, and undone as any other.
class SourcesBar : public QWidget {
  Q_OBJECT
 public:
  SourcesBar(Session& session, QWidget* parent);
  /// What can be done now; `seen` is the frame in view, whose time is right or not; null for none.
  void refresh(const media::Frame* seen);
  /// Asks how many pictures of the film go on one frame.
  void ask_film_step();

 signals:
  /// The pictures that were read are of another source now.
  void read_anew();

 private:
  enum class As { Only, Another };
  void show_sources();
  void choose_card(As as);
  void choose_film();
  void ask_clock();
  void show_copies();
  void copy_cards(const std::string& numbered_from);

  Session& session_;
  PressButton *sources_, *clock_, *copy_;
  std::optional<media::CameraTime> seen_at_;
  QString seen_name_;
};

}  // namespace askcount::app
