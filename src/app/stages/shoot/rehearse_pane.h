// SPDX-License-Identifier: GPL-3.0-or-later
// The dusk at many times its speed, with the keys as dials.
#pragma once

#include <memory>
#include <QElapsedTimer>
#include <QLabel>
#include <QTimer>
#include <QWidget>

#include "app/session/session.h"
#include "app/stages/shoot/histogram.h"
#include "app/widgets/keys.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"
#include "journal/rehearsal.h"
#include "simulate/scene.h"

namespace askcount::app {

/// Up and down turn the shutter slower and faster, left and right the aperture wider and smaller, page up and
/// down ISO.
class RehearsePane : public QWidget {
  Q_OBJECT
 public:
  RehearsePane(Session& session, QWidget* parent);
  /// They turn the dials while it runs.
  const Keys& keys() const { return keys_; }
  bool running() const { return clock_.isActive(); }
  const std::optional<journal::Rehearsal::Result>& result() const { return result_; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void say_keys();
  void start();
  void finish();
  void tick();
  void turn(ramp::Dial dial, bool brighter);
  void refresh();
  QRectF chart_place() const;

  Session& session_;
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
  double interval_s_ = 0, light_stops_ = 0;
  std::vector<Instant> moments_;  // of its frames
  bool whole_ = false;            // enough was played to be judged
  std::unique_ptr<journal::Rehearsal> rehearsal_;
  std::unique_ptr<simulate::Scene> scene_;
  std::optional<journal::Rehearsal::Result> result_;
  Keys keys_;
};

}  // namespace askcount::app
