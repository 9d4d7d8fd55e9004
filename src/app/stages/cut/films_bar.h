// SPDX-License-Identifier: GPL-3.0-or-later
// The take's films by name, and one more or less of them.
#pragma once

#include <QWidget>

#include "app/session/session.h"
#include "app/widgets/keys.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

/// Press a name, or go with Left and Right while it has the focus.
class FilmNames : public QWidget, public Keyed {
  Q_OBJECT
 public:
  FilmNames(Session& session, QWidget* parent);
  QSize sizeHint() const override;

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  QRectF place(int film) const;
  QString name(int film) const;
  void rename();

  Session& session_;
};

class FilmsBar : public QWidget {
  Q_OBJECT
 public:
  FilmsBar(Session& session, QWidget* parent);

 private:
  void refresh();
  Session& session_;
  FilmNames* names_;
  PressButton* fewer_;
};

}  // namespace askcount::app
