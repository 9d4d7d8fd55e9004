// SPDX-License-Identifier: GPL-3.0-or-later
// The view on the whole frame: which part of it the film shows, dragged with the mouse or by keys.
#pragma once

#include "app/session/session.h"
#include "app/stages/cut/preview_player.h"
#include "app/widgets/keys.h"
#include "app/widgets/picture_view.h"

namespace askcount::app {

/// The frame of the take at the film's moment, with the view of now, and where it begins and ends. Drag
/// inside to move it, at a corner to make it wider, with the right button to turn it; the wheel widens. What
/// is changed becomes an anchor at that moment. With the focus arrows move, + and - widen, [ and ] turn,
/// Delete takes the anchor of this moment away, Backspace all of them.
class ViewPane : public PictureView, public Keyed {
  Q_OBJECT
 public:
  ViewPane(Session& session, PreviewPlayer& player, QWidget* parent);

  /// The view of now, before steadying; nothing where there is no film.
  std::optional<render::View> view() const;
  /// The corners of what the film shows now, in this widget, steadying and all.
  QPolygonF outline() const;

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  enum class Drag { None, Move, Widen, Turn };
  void show_frame();
  double now_s() const;
  void change(render::View view, const QString& drag);
  QPolygonF outline_of(const render::View& view) const;
  QPolygonF corners_through(const image::Affine& film_to_frame) const;
  Drag drag_at(const QPointF& place) const;

  Session& session_;
  PreviewPlayer& player_;
  long long drawn_ = -1;  // frame of the take
  bool drawn_whole_ = false;
  Drag drag_ = Drag::None;
  QPointF from_;
  render::View began_;
};

}  // namespace askcount::app
