// SPDX-License-Identifier: GPL-3.0-or-later
// A row of words to choose what is shown below.
#pragma once

#include <QStackedWidget>
#include <QStringList>
#include <QWidget>
#include <vector>

#include "app/widgets/keys.h"

namespace askcount::app {

/// The pages that words choose from, as tall as the room they are given.
class Pages : public QStackedWidget {
  Q_OBJECT
 public:
  using QStackedWidget::QStackedWidget;
  bool hasHeightForWidth() const override { return false; }
};

/// One word is chosen: by click, or with Left and Right while it has the focus.
class WordTabs : public QWidget, public Keyed {
  Q_OBJECT
 public:
  explicit WordTabs(const QString& name, QWidget* parent);
  /// Adds a word and the page it shows.
  void add(const QString& word, QWidget* page, Pages* pages);
  void choose(int index);
  /// Whether a word can be chosen now; one that cannot is not seen.
  void set_there(int index, bool there);
  int chosen() const { return chosen_; }
  QSize sizeHint() const override;

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { update(); }
  void focusOutEvent(QFocusEvent*) override { update(); }

 private:
  void say_keys();
  QRectF place(int index) const;

  int next(int from, int step) const;

  QStringList words_;
  std::vector<bool> there_;
  Pages* pages_ = nullptr;
  int chosen_ = 0;
};

}  // namespace askcount::app
