// SPDX-License-Identifier: GPL-3.0-or-later
// The one question after a film: how did it go, and what is to be done differently?
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QWidget>

#include "app/session/book_keeper.h"

namespace askcount::app {

/// A strip above the foot. It comes once for each take, with its first film, and never in the way: work goes
/// on around it.
class AskedBar : public QWidget {
  Q_OBJECT
 public:
  AskedBar(BookKeeper& book, QWidget* parent);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void ask(long long id, const QString& name, const book::Words& words);
  void keep(book::Verdict verdict);

  BookKeeper& book_;
  QLabel* question_;
  QLineEdit* change_;
  long long id_ = 0;
  book::Words words_;
};

}  // namespace askcount::app
