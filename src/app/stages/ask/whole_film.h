// SPDX-License-Identifier: GPL-3.0-or-later
// The whole film of the plan before it is shot, alone or beside another plan's.
#pragma once

#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>

#include "app/session/session.h"
#include "app/session/trial_reel.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

/// Plays at its true rate from the first press, in a loop. A plan that was kept plays beside the one at hand,
/// both by the same clock: the shorter one waits at its last frame.
class WholeFilm : public QWidget {
  Q_OBJECT
 public:
  WholeFilm(Session& session, QWidget* parent);

  void toggle();
  bool playing() const { return timer_.isActive(); }
  /// Seconds into the film.
  double at() const { return at_s_; }
  /// Frames that were shown since play began, and that were due by the clock.
  long long shown() const { return shown_; }
  const TrialReel& now() const { return now_; }
  bool compares() const { return kept_ != nullptr; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void hideEvent(QHideEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void refresh();
  void tick();
  void keep_or_let_go();
  void say();
  double length_s() const;
  QRect screen_rect(int which) const;
  int side_left() const;
  void paint_screen(QPainter& p, int which, TrialReel& reel, QImage& last, const QString& name);
  static long long frame_of(const TrialReel& reel, double at_s);

  Session& session_;
  TrialReel now_;
  std::unique_ptr<TrialReel> kept_;
  QImage now_picture_, kept_picture_;  // the last ones, until the next are there
  QTimer timer_, wait_;
  QElapsedTimer clock_;
  double at_s_ = 0, began_s_ = 0;
  long long shown_ = 0, last_frame_ = -1;
  PressButton *play_, *keep_;
};

}  // namespace askcount::app
