// SPDX-License-Identifier: GPL-3.0-or-later
// What a sentence could say besides, as words to press.
#pragma once

#include <QAbstractButton>
#include <QWidget>
#include <vector>

#include "app/widgets/sentence.h"

namespace askcount::app {

/// One word that is pressed, by the mouse or by Space and Return.
class WordChip : public QAbstractButton {
  Q_OBJECT
 public:
  WordChip(const QString& word, QWidget* parent);
  QSize sizeHint() const override;

 protected:
  void paintEvent(QPaintEvent* event) override;
};

/// The phrases that a sentence does not have, flowing over as many lines as they need; a press puts one
/// there. Not there while the sentence says all it can.
class AddWords : public QWidget {
  Q_OBJECT
 public:
  /// `sentence` outlives it.
  AddWords(Sentence& sentence, QWidget* parent);
  bool hasHeightForWidth() const override { return true; }
  int heightForWidth(int width) const override { return lay_out(width, false); }
  QSize sizeHint() const override;
  QSize minimumSizeHint() const override { return {120, sizeHint().height()}; }

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

 private:
  void refresh();
  int lay_out(int width, bool move) const;

  Sentence& sentence_;
  std::vector<WordChip*> chips_;  // by the phrases' numbers
};

}  // namespace askcount::app
