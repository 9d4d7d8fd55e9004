// SPDX-License-Identifier: GPL-3.0-or-later
// The bar at the top: the name, the take, the stages.
#pragma once

#include <QWidget>
#include <vector>

namespace askcount::app {

/// The stages as words with their numbers; the one in front is underlined in the colours of both clocks,
/// those that have left something for the next carry a dot.
class StageBar : public QWidget {
  Q_OBJECT
 public:
  explicit StageBar(QWidget* parent);
  /// `key` is the stage's number in the order of work, 1 to 8.
  void add_stage(int key, const QString& name);
  void set_take(const QString& name);
  void set_current(int index);
  /// The stage in front, in words.
  QString current_words() const;
  void set_done(const std::vector<bool>& done);
  QSize sizeHint() const override { return {1280, 42}; }

 signals:
  void chosen(int index);
  void menu_asked(QPoint below);  ///< the take's name was pressed

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  struct Entry {
    int key;
    QString name;
    bool done = false;
  };
  std::vector<QRectF> places() const;
  QRectF name_place() const;

  QString take_;
  std::vector<Entry> stages_;
  int current_ = 0;
};

}  // namespace askcount::app
