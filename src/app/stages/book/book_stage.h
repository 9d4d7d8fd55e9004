// SPDX-License-Identifier: GPL-3.0-or-later
// The Book stage: every take, what was planned, what came of it, and what the kit really does.
#pragma once

#include <QLabel>
#include <QStackedWidget>

#include "app/stages/book/beside_view.h"
#include "app/stages/book/book_list.h"
#include "app/stages/stage.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class BookStage : public Stage {
  Q_OBJECT
 public:
  BookStage(Session& session, QWidget* parent);

  std::optional<EmptyNote> empty() const override;
  Findings findings() const override;
  QString findings_title() const override;
  std::map<size_t, QString> headings(const Findings& list) const override;
  bool folds_fine() const override { return false; }
  QString foot() const override;
  bool done() const override { return false; }
  bool key(QKeyEvent* event) override;
  void entered() override;

 signals:
  /// The person wants to work on that take, or on a new one from it (`at` says when it begins).
  void open_asked(QString file);
  void began();

 private:
  void say_keys();
  void make_list_sentence();
  QWidget* make_chosen_panel();
  void ask();
  void refresh();
  void show_chosen();
  /// The line under the chosen take; hidden without words.
  void show_again(const QString& words);
  void put_in_words(const std::function<void(book::Words&)>& change);
  void open(long long id);
  void begin_again(Instant at, bool exactly);
  void show_beside(bool beside);
  void show_ways_in();
  void ask_by_hand();
  void take_out();
  void write_out();

  Sentence *sentence_, *said_;
  SlotField *subject_, *place_, *month_, *verdict_, *words_, *count_, *frames_, *film_;
  SlotField *went_, *change_, *note_;
  QStackedWidget* pages_;
  BookList* list_;
  BesideView* beside_;
  QLabel *title_, *again_;
  PressButton *open_, *begin_, *lay_, *more_, *write_;
  book::Query query_;
  long long asked_again_for_ = 0;
  std::vector<book::Again> again_found_;
};

}  // namespace askcount::app
