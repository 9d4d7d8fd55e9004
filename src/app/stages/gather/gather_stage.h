// SPDX-License-Identifier: GPL-3.0-or-later
// Gather: every take found, every frame accounted for and looked at.
#pragma once

#include "app/stages/gather/contact_sheet.h"
#include "app/stages/gather/frame_lanes.h"
#include "app/stages/gather/neighbour_strip.h"
#include "app/stages/gather/sources_bar.h"
#include "app/stages/stage.h"
#include "app/style/text.h"
#include "app/widgets/picture_first.h"
#include "app/widgets/picture_place.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/press_button.h"
#include "app/widgets/word_tabs.h"

namespace askcount::app {

class GatherStage : public Stage {
  Q_OBJECT
 public:
  GatherStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return say_q("On the cards"); }
  QString foot() const override;
  bool done() const override { return session_.frames.gathered().has_value(); }
  std::optional<EmptyNote> empty() const override;
  void entered() override;
  bool key(QKeyEvent* event) override;
  PicturePlace* picture() override { return place_; }
  QString picture_words() const override;

 private:
  void say_keys();
  QWidget* make_side();
  void add_decisions(QVBoxLayout* rows);
  void wire_decisions();
  void refresh();
  void show_frame();
  void show_picture();
  QString facts_of(const media::Frame& frame) const;
  void pressed(const QString& link);
  void choose_take();
  void next_fault(int step);
  const inspect::Fault* fault_here() const;
  const media::Frame* shown_frame() const;
  template <typename OfFrame>
  void decide(bool on);
  void end_before(std::size_t frame);
  void show_ends();
  void leave_out_or_take_back();

  FramePictures pictures_;
  QLabel *answer_, *title_, *text_, *facts_;
  SourcesBar* sources_;
  PressButton *stand_in_, *leave_out_, *fine_, *ends_;
  PictureFirst* first_;
  PicturePlace* place_;
  Pages* pages_;
  PictureView* picture_;
  NeighbourStrip* strip_;
  FrameLanes* lanes_;
  ContactSheet* sheet_;
  WordTabs* tabs_;
  std::optional<Instant> began_;  // by the journal
  bool blinking_ = false, real_pixels_ = false;
};

}  // namespace askcount::app
