// SPDX-License-Identifier: GPL-3.0-or-later
// Level: flicker taken out, clicks joined, and the look of the film set at its anchors.
#pragma once

#include <QTimer>

#include "app/session/darkroom.h"
#include "app/stages/level/anchor_strip.h"
#include "app/stages/level/brightness_chart.h"
#include "app/stages/level/lens_panel.h"
#include "app/stages/level/look_lanes.h"
#include "app/stages/level/look_sentence.h"
#include "app/stages/level/split_view.h"
#include "app/stages/level/spread_view.h"
#include "app/stages/stage.h"
#include "app/style/text.h"
#include "app/widgets/picture_first.h"
#include "app/widgets/picture_place.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"
#include "app/widgets/word_tabs.h"

namespace askcount::app {

class LevelStage : public Stage {
  Q_OBJECT
 public:
  LevelStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return say_q("Evenness"); }
  QString foot() const override;
  bool done() const override { return session_.levelling.evenness().has_value(); }
  std::optional<EmptyNote> empty() const override;
  void entered() override;
  /// A sets an anchor at the frame looked at, or takes it away; , and . go to the one before and after; B
  /// shows the frame as shot as long as it is held; Escape ends marking and picking.
  bool key(QKeyEvent* event) override;
  PicturePlace* picture() override { return place_; }
  QString picture_words() const override { return spread_words_->text(); }

 private:
  void say_keys();
  /// What marking parts of the picture is for.
  enum class Marking { Only, Without };

  QWidget* make_side();
  QWidget* make_look_page();
  QWidget* make_below();
  void wire_split();
  void follow_session();
  void make_sentence(QVBoxLayout* rows);
  void measure();
  void refresh();
  void show_frame();
  void show_looks_menu();
  void show_parts_menu();
  void begin_marking(Marking what, SplitView::Drag how);
  void mark(const std::vector<int>& parts);
  void pick(const QPointF& place);
  /// A press with the rings of dust: takes the one there away, or puts one there.
  void press_ring(const QPointF& place);
  void show_rings();
  void toggle_anchor();
  void to_anchor(int direction);
  void suggest();
  void open_looks();
  void save_looks();
  void open_cube();
  void save_cube();
  std::optional<size_t> frame() const;
  look::Look look_here() const;

  Darkroom darkroom_;
  SplitView* split_;
  PicturePlace* place_;
  PictureFirst* first_;
  AnchorStrip* anchors_;
  SpreadView* spread_;
  QLabel *numbers_, *spread_words_, *anchor_words_;
  Sentence* sentence_;
  SlotField *reach_, *strength_;
  PressButton *parts_, *looks_menu_, *pick_;
  BrightnessChart* chart_;
  WordTabs* tabs_;
  LookLanes* lanes_;
  LookSentence* values_;
  LensPanel* lens_;
  QTimer quiet_;  ///< after an edit of lens or sensor: it is measured anew once they are left alone
  Marking marking_ = Marking::Only;
  std::optional<look::Look> copied_;
};

}  // namespace askcount::app
