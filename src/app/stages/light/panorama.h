// SPDX-License-Identifier: GPL-3.0-or-later
// What crosses the frame: a panorama of azimuth and altitude with the camera's frame on it.
#pragma once

#include <optional>
#include <QColor>
#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/keys.h"
#include "sky/panorama.h"

namespace askcount::app {

/// Drag the frame to aim, or use the arrow keys (Shift for larger steps, [ and ] to roll). Drag the horizon
/// where the land rises, or press H and Shift+H to raise and lower it where the camera looks. A picture taken
/// at the place lies under all of it; Ctrl and drag moves it.
class Panorama : public QWidget, public Keyed {
  Q_OBJECT
 public:
  Panorama(Session& session, QWidget* parent);
  /// Which end of a moving head the mouse and the keys aim.
  void aim_end(bool end);
  /// The next press marks a place of the picture that lies under the sky: marked() tells.
  void mark_next();
  bool marks() const { return marks_; }
  bool aims_end() const { return end_; }
  QSize sizeHint() const override { return {900, 230}; }

 signals:
  /// A place of the picture, as shares from its middle (up and right are above zero).
  void marked(double x, double y);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent*) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  sky::Panorama shown() const;
  QPointF place(double azimuth, double altitude) const;
  sky::Direction direction(QPointF at) const;
  void draw_band(QPainter& p, const std::vector<sky::Direction>& band);
  QColor ink_of(sky::Body body) const;
  bool take_room(const QRectF& box);
  void draw_path(QPainter& p, const sky::Ephemeris& sky, sky::Body body, Instant from, Instant to);
  void draw_times(QPainter& p, const sky::Ephemeris& sky, sky::Body body, Instant start, Instant end);
  void draw_name(QPainter& p, sky::Body body, QPointF ring);
  void draw_track(QPainter& p, const sky::Ephemeris& sky, sky::Body body);
  QPainterPath land() const;
  void draw_directions(QPainter& p);
  void draw_frames(QPainter& p);
  void draw_frame(QPainter& p, const sky::Aim& aim, bool strong);
  void turn(double bearing, double tilt, double roll);
  void raise(double bearing, double altitude);
  bool has_picture() const;
  bool is_hidden(const sky::Direction& direction) const;
  void draw_pole(QPainter& p);
  void draw_behind(QPainter& p);

  Session& session_;
  QColor ink_;                 // of words on the sky
  std::vector<QRectF> taken_;  // by words, while painting
  bool end_ = false, marks_ = false;
  enum class Drag { None, Frame, Horizon, Picture } drag_ = Drag::None;
  QPointF last_;
  std::optional<sky::Panorama> held_;  // while dragging the picture stands still
};

}  // namespace askcount::app
