// The dusk at many times its speed, with the keys as dials.
#pragma once

#include <memory>
#include <QElapsedTimer>
#include <QLabel>
#include <QTimer>
#include <QWidget>

#include "app/shell/desk.h"
#include "app/stages/shoot/histogram.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"
#include "standin/scene.h"
#include "take/rehearsal.h"

namespace askcount::app {

/// Up and down turn the shutter slower and faster, left and right the aperture wider and smaller, page up and
/// down ISO.
class RehearsePane : public QWidget {
  Q_OBJECT
 public:
  RehearsePane(Desk& desk, QWidget* parent);
  bool key(QKeyEvent* event);
  bool running() const { return clock_.isActive(); }
  const std::optional<take::Rehearsal::Result>& result() const { return result_; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void start();
  void finish();
  void tick();
  void turn(ramp::Dial dial, bool brighter);
  void refresh();
  QRectF meter_place() const { return {0, 44, width() * 0.56, 54}; }
  QRectF chart_place() const;

  Desk& desk_;
  Sentence* sentence_;
  SlotField *speed_slot_, *scene_slot_;
  PressButton* start_;
  PictureView* picture_;
  Histogram* histogram_;
  QLabel *dials_, *verdict_;
  QTimer clock_;
  QElapsedTimer real_;
  double speed_ = 60;
  long long frame_ = 0, drawn_ = -1;
  double interval_s_ = 0;
  bool whole_ = false;  // enough was played to be judged
  std::unique_ptr<take::Rehearsal> rehearsal_;
  std::unique_ptr<standin::Scene> scene_;
  std::optional<take::Rehearsal::Result> result_;
};

}  // namespace askcount::app
