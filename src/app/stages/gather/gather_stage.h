// Gather: the take found on the card, every frame accounted for.
#pragma once

#include "app/stages/gather/film_strip.h"
#include "app/stages/stage.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

class GatherStage : public Stage {
  Q_OBJECT
 public:
  GatherStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return "On the card"; }
  QString foot() const override;
  bool done() const override { return session_.frames.gathered().has_value(); }
  std::optional<EmptyNote> empty() const override;
  void entered() override;

 private:
  void refresh();
  void show_frame();
  void choose_card();

  FramePictures pictures_;
  QLabel *answer_, *facts_;
  PressButton *again_, *other_;
  PictureView* picture_;
  FilmStrip* strip_;
};

}  // namespace askcount::app
