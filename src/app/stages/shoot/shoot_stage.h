// Shoot: the stand-in runs the plan, faster than real; the count, the clock and the newest frame.
#pragma once

#include "app/stages/stage.h"
#include "app/widgets/frame_pictures.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/press_button.h"

namespace askcount::app {

class ShootStage : public Stage {
  Q_OBJECT
 public:
  ShootStage(Desk& desk, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return "Beside the tripod"; }
  QString foot() const override;
  bool done() const override { return desk_.gathered().has_value(); }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void refresh();
  void show_newest();
  /// What is shown as the newest: the frame just landed, or the one looked at.
  std::optional<std::filesystem::path> newest() const;

  FramePictures pictures_;
  PictureView* picture_;
  QLabel* heading_;
  PressButton *start_, *stop_;
};

}  // namespace askcount::app
