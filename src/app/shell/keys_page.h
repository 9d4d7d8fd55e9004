// SPDX-License-Identifier: GPL-3.0-or-later
// The page of all keys, made from what they do; and why the number in focus is what it is.
#pragma once

#include <QDialog>
#include <QVBoxLayout>
#include <vector>

#include "app/widgets/keys.h"

namespace askcount::app {

class KeysPage : public QDialog {
  Q_OBJECT
 public:
  explicit KeysPage(QWidget* parent);

  struct Line {
    QString keys, words;
  };
  static std::vector<Line> lines_of(const Keys& keys);

  /// What is in focus, and where it comes from; nothing where nobody can say.
  void add_why(const QString& what, const QString& why);
  /// A part of the page; none without lines.
  void add(const QString& heading, const std::vector<Line>& lines);

 private:
  QVBoxLayout* rows_;
};

}  // namespace askcount::app
