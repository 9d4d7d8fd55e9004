// SPDX-License-Identifier: GPL-3.0-or-later
// Light: what crosses the frame, how the light changes, how the exposure follows.
#pragma once

#include <optional>

#include "app/stages/light/panorama.h"
#include "app/stages/light/ramp_chart.h"
#include "app/stages/stage.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"
#include "app/widgets/word_tabs.h"
#include "sky/events.h"

namespace askcount::app {

class LightStage : public Stage {
  Q_OBJECT
 public:
  LightStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override;
  Facts facts() const override;
  QString foot() const override;
  bool done() const override { return session_.document.ramp() && session_.document.ramp()->feasible; }
  std::optional<EmptyNote> empty() const override;

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  /// What happens on the take's day, worked out when place or day are others.
  const sky::DayEvents& events() const;
  void make_place();
  void make_aim();
  void refresh();
  void aim_slot(SlotField*& slot, const QString& name, int which, double low, double high);

  Sentence *place_, *aim_;
  SlotField *name_, *coordinates_, *zone_, *date_, *time_;
  SlotField *bearing_, *tilt_, *roll_, *lens_, *keep_, *head_, *eased_;
  mutable std::optional<std::pair<sky::Place, sky::DayEvents>> events_;
  PressButton* search_;
  Panorama* panorama_;
};

}  // namespace askcount::app
