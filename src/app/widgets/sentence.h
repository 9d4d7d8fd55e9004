// SPDX-License-Identifier: GPL-3.0-or-later
// A sentence with slots that are edited in place.
#pragma once

#include <functional>
#include <map>
#include <QLineEdit>
#include <QWidget>
#include <vector>

#include "app/widgets/keys.h"

namespace askcount::app {

/// One slot of a sentence. Click, Return or typing a number edits it; arrows and the wheel step it; a slot
/// with choices cycles through them.
class SlotField : public QWidget, public Keyed {
  Q_OBJECT
 public:
  enum class Kind {
    Film,      ///< wished, film time
    Field,     ///< wished, field time
    Plain,     ///< wished, neither
    Answer,    ///< worked out
    Proposed,  ///< what Ask Count takes until something is said
    Open       ///< not known
  };

  SlotField(const QString& name, double points, QWidget* parent);
  /// `typed` is what an edit begins with, where that is not the text shown.
  void set(const QString& text, Kind kind, const QString& typed = {});
  /// A pinned slot carries a pin; it does not give way to others.
  void set_pinned(bool pinned);
  /// Why it has this value; shown when the pointer rests on it or ? is pressed.
  void set_why(const QString& why);
  void set_choices(const QStringList& choices) { choices_ = choices; }
  /// It is filled with words: a letter begins them, where otherwise letters are the stage's keys.
  void take_words() { words_ = true; }
  /// Delete takes the phrase that it stands in away.
  void set_removable();
  QString text() const { return text_; }
  Kind kind() const { return kind_; }
  QSize sizeHint() const override;
  void set_points(double points);
  /// Pixels from the top to the words' base line.
  int base_line() const;

 signals:
  void committed(QString text);
  void nudged(int steps);
  void pin_pressed();           ///< Ctrl+P or the right button
  void edited();                ///< typing began or ended
  void asked_why(QString why);  ///< it has the focus now, or lost it (empty)
  void removed();               ///< Delete was pressed on a removable one

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void say_keys();
  void begin(const QString& first = {});
  void end(bool keep);
  void show_choices();

  QFont font_of_slot() const;

  QString text_, typed_;
  double points_;
  Kind kind_ = Kind::Plain;
  bool pinned_ = false, words_ = false;
  QStringList choices_;
  QLineEdit* editor_ = nullptr;
};

/// Words and slots flowing over as many lines as they need. A piece is words, a slot, or a line break. Pieces
/// may form a phrase, which is there only while it says something: AddWords offers the others.
class Sentence : public QWidget {
  Q_OBJECT
 public:
  explicit Sentence(QWidget* parent = nullptr, double points = kPoints);
  void add(const QString& words);
  SlotField* add_slot(const QString& name);
  void add_break();
  /// The pieces added from here to end_phrase() are a phrase, offered by `word`. Returns its number. It may
  /// begin with a comma, which falls away where it would come first.
  int begin_phrase(const QString& word);
  /// `take_away` makes what the phrase says unsaid again. Added by hand, a phrase stays though it says
  /// nothing yet; one that `says_at_once` goes with what it says.
  void end_phrase(std::function<void()> take_away, bool says_at_once = false);
  /// Whether there is something that the phrase says.
  void set_said(int phrase, bool said);
  /// Puts a phrase there though it says nothing yet, with the focus on its slot.
  void add_phrase(int phrase);
  bool has_phrase(int phrase) const;
  /// The words of all its phrases, by their numbers.
  QStringList phrase_words() const;
  /// Words shown below in the colour of a stop; empty for none.
  void complain(const QString& words);
  /// Keeps a line below for why the slot with the focus has its value; `hint` stands there otherwise.
  void keep_why_line(const QString& hint);
  bool hasHeightForWidth() const override { return true; }
  int heightForWidth(int width) const override;
  QSize sizeHint() const override;

  static constexpr double kPoints = 15;
  /// Another size of its letters.
  void set_points(double points);

 public slots:
  /// Lays out again, after slots' texts changed.
  void reflow();

 signals:
  void phrases_changed();  ///< another one is there, or not any more
  void phrase_added(int phrase);

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

 private:
  struct Piece {
    QString words;
    SlotField* slot = nullptr;
    bool line_break = false;
    int phrase = -1;  // none
  };
  struct Phrase {
    QString word;
    std::function<void()> take_away;
    bool says_at_once = false, said = false, added = false;
  };
  void take_away(int phrase);
  void show_phrase(int phrase);
  bool is_there(const Piece& piece) const;
  struct Placed {
    QPoint at;  // base line
    QString words;
  };
  int lay_out(int width, bool move) const;
  int height_at(int width) const;

  double points_;
  std::vector<Piece> pieces_;
  std::vector<Phrase> phrases_;
  int building_ = -1;  // the phrase that pieces are added to
  mutable std::vector<Placed> placed_;
  QString complaint_, hint_, why_;
  mutable std::map<int, int> heights_;  // by width, until something is laid out anew
};

}  // namespace askcount::app
