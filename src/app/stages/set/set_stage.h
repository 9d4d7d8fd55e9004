// SPDX-License-Identifier: GPL-3.0-or-later
// Set: what this timer is told, in words to follow by torch.
#pragma once

#include "app/stages/stage.h"
#include "app/style/text.h"
#include "app/widgets/sentence.h"
#include "app/widgets/shot_bar.h"

namespace askcount::app {

/// The five settings, large.
class ProgramCard : public QWidget {
 public:
  ProgramCard(Session& session, QWidget* parent);
  QSize sizeHint() const override { return {800, 290}; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  Session& session_;
};

class TryPane;

class SetStage : public Stage {
  Q_OBJECT
 public:
  SetStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return say_q("What the timer makes of it"); }
  QString foot() const override;
  bool done() const override {
    const take::Take& t = session_.document.take();
    return !t.ticks.empty() || (t.says_plan() && session_.frames.gathered().has_value());
  }
  std::optional<EmptyNote> empty() const override;

 private:
  void refresh();

  Sentence* sentence_;
  SlotField *timer_, *counts_, *start_by_, *delay_, *ends_;
  ShotBar* shot_;
  TryPane* try_;
};

}  // namespace askcount::app
