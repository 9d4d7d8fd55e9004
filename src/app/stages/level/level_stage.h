// Level: flicker measured, clicks joined, as shot beside levelled.
#pragma once

#include "app/session/frame_pictures.h"
#include "app/stages/level/brightness_chart.h"
#include "app/stages/level/split_view.h"
#include "app/stages/stage.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

class LevelStage : public Stage {
  Q_OBJECT
 public:
  LevelStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return "Evenness"; }
  QString foot() const override;
  bool done() const override { return session_.levelling.evenness().has_value(); }
  std::optional<EmptyNote> empty() const override;
  void entered() override;

 private:
  void refresh();
  void show_frame();

  FramePictures pictures_;
  SplitView* split_;
  QLabel *numbers_, *frame_facts_;
  BrightnessChart* chart_;
};

}  // namespace askcount::app
