// SPDX-License-Identifier: GPL-3.0-or-later
// The takes of the book, one below the other, each with its two clocks drawn small.
#pragma once

#include <QAbstractScrollArea>

#include "app/session/book_keeper.h"
#include "app/widgets/keys.h"

namespace askcount::app {

/// One take is chosen, and perhaps a second to lay beside it. Up and Down choose, with Shift the second;
/// Return opens.
class BookList : public QAbstractScrollArea, public Keyed {
  Q_OBJECT
 public:
  BookList(BookKeeper& book, QWidget* parent);

  /// The ids; 0 for none.
  long long chosen() const { return chosen_; }
  long long second() const { return second_; }
  void choose(long long id);
  /// Draws what the keeper has now.
  void refresh();

 signals:
  void chosen_changed();
  void opened(long long id);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent*) override { viewport()->update(); }
  void focusOutEvent(QFocusEvent*) override { viewport()->update(); }

 private:
  void say_keys();
  const std::vector<book::Row>& rows() const { return book_.shelf().listing.rows; }
  int row_height() const;
  int index_of(long long id) const;
  void step(int by, bool second);
  void show_row(int index);
  void arrange();
  void draw(QPainter& p, const book::Row& row, bool there, const QRectF& at);
  void draw_clocks(QPainter& p, const book::Row& row, const QRectF& at);

  BookKeeper& book_;
  long long chosen_ = 0, second_ = 0;
  std::map<long long, QImage> pictures_;
};

/// The shape of a verdict, so that colour alone never tells: a tick, a triangle, a cross.
void draw_verdict(QPainter& p, book::Verdict verdict, const QPointF& middle);

}  // namespace askcount::app
