// SPDX-License-Identifier: GPL-3.0-or-later
// Ask: the sentence, the interval it leads to, and the motion it makes.
#pragma once

#include <map>

#include "app/stages/ask/measure_pane.h"
#include "app/stages/ask/motion_view.h"
#include "app/stages/ask/whole_film.h"
#include "app/stages/stage.h"
#include "app/style/text.h"
#include "app/widgets/sentence.h"
#include "app/widgets/word_tabs.h"

namespace askcount::app {

class AskStage : public Stage {
  Q_OBJECT
 public:
  AskStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return say_q("Before you go"); }
  QString foot() const override;
  bool done() const override { return session_.document.sums().has_value(); }
  std::optional<EmptyNote> empty() const override;
  void play() override;
  /// What moves, in a person's words; then the focus goes to what wants to be said next.
  void say_subject(const QString& words);

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  void say_keys();
  void refresh();
  void add_slot(plan::Slot slot);
  void add_crossings();
  void release(plan::Slot slot);
  /// To the first slot that nobody has filled, in the order photographers ask; from `said` on.
  void ask_next(const SlotField* said);
  void add_meter();
  void show_exposure();
  void show_run();
  void show_shutter();
  void show_days();
  QWidget* make_see_page();

  Sentence* sentence_;
  std::map<plan::Slot, SlotField*> slots_;
  SlotField *subject_, *place_, *start_, *meter_, *filters_, *dials_;
  int field_crossing_ = -1, screen_crossing_ = -1, step_ = -1, metering_ = -1;  // phrases
  WordTabs* tabs_;
  MeasurePane* measure_;
  QLabel* motion_heading_;
  MotionView* motion_;
  WholeFilm* whole_;
};

}  // namespace askcount::app
