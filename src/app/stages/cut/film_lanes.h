// SPDX-License-Identifier: GPL-3.0-or-later
// What goes on over the film, as lanes on film time: of speed, view, trails, stillness, fades and sound those
// that were said.
#pragma once

#include <QWidget>
#include <vector>

#include "app/session/session.h"
#include "app/stages/cut/preview_player.h"
#include "app/widgets/keys.h"

namespace askcount::app {

/// Drag across to move through the film; drag a lane up or down to change it at that moment, which becomes an
/// anchor; drag an anchor across to move it in time; drag the ends of the fades. A double press types. With
/// the focus Up and Down choose a lane, + and - change it, Return types, Delete takes the anchor away.
class FilmLanes : public QWidget, public Keyed {
  Q_OBJECT
 public:
  enum Lane { Speed, View, Trail, Still, Fade, Sound, kLanes };
  FilmLanes(Session& session, PreviewPlayer& player, QWidget* parent);
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override;

  int chosen() const { return chosen_; }
  /// Which lanes are there, in the order of Lane.
  void show_lanes(const std::vector<int>& lanes);
  /// Where a lane lies; nowhere for one that is not shown.
  QRectF lane_rect(int lane) const;
  double x_of(double film_s) const;
  /// Steps a lane's value at the moment looked at.
  void step(int lane, int steps);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  enum class Drag { None, Begun, Scrub, Value, Time, FadeIn, FadeOut };
  double length_s() const;
  double now_s() const;
  double tick_s() const;
  double s_at(double x) const;
  int lane_at(double y) const;
  /// A lane's value at a moment, as a share of its height; and the words for it.
  double share_at(int lane, double film_s) const;
  QString words_of(int lane) const;
  void set_share(int lane, double share, const QString& drag);
  void set_value(int lane, double value, const QString& drag);
  double value_now(int lane) const;
  int anchor_at(int lane, double x) const;
  std::vector<double> anchor_times(int lane) const;
  void move_anchor(int lane, int which, double film_s);
  void remove_anchor();
  void draw_lane(QPainter& p, int lane) const;
  void draw_still(QPainter& p, const QRectF& place) const;
  void draw_sound(QPainter& p, const QRectF& place) const;
  void draw_ruler(QPainter& p) const;
  double lanes_bottom() const;
  void follow_sound();
  void type(int lane);

  Session& session_;
  PreviewPlayer& player_;
  std::vector<int> shown_;
  int chosen_ = 0;
  Drag drag_ = Drag::None;
  int dragged_ = -1;  // lane, and the anchor of it
  int anchor_ = -1;
  QPointF from_;
  double from_share_ = 0;
  Job listening_;
  std::vector<float> levels_;  // of the sound
  media::Sound levels_of_;
  double levels_length_ = 0;
};

}  // namespace askcount::app
