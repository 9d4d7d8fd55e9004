// SPDX-License-Identifier: GPL-3.0-or-later
// A timer on the screen to practise on, with keys and mouse; what was told is read and judged.
#pragma once

#include <memory>
#include <QElapsedTimer>
#include <QLabel>
#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/keys.h"
#include "timer/face.h"

namespace askcount::app {

/// The face: click its keys, or with the focus Return (set), arrows, S (start), K (lock), G (its lamp).
class TimerFace : public QWidget, public Keyed {
  Q_OBJECT
 public:
  explicit TimerFace(QWidget* parent);
  void put(const plan::Timer& timer);
  const timer::Face& face() const { return *face_; }
  void press(timer::Key key);
  QSize sizeHint() const override { return {760, 136}; }

 signals:
  void pressed();

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  QRectF wheel() const;
  QRectF key_place(timer::Key key) const;
  QRectF field_place(size_t field) const;
  void paint_fields(QPainter& p);
  void turn(int steps);

  std::unique_ptr<timer::Face> face_;
  int turned_ = 0;  // degrees of the wheel
};

class PracticePane : public QWidget {
  Q_OBJECT
 public:
  PracticePane(Session& session, QWidget* parent);

 private:
  void refresh();
  void judge();
  void begin();

  Session& session_;
  TimerFace* face_;
  QLabel *task_, *verdict_, *best_;
  QElapsedTimer clock_;
  QString timer_;
  bool counting_ = false;
};

}  // namespace askcount::app
