// Shoot: beside the tripod in the dark. The count, the next thing to do, the log.
#pragma once

#include <QLineEdit>
#include <QStackedWidget>
#include <QTimer>

#include "app/stages/shoot/rehearse_pane.h"
#include "app/stages/stage.h"
#include "app/widgets/frame_pictures.h"
#include "app/widgets/picture_view.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"
#include "app/widgets/word_tabs.h"

namespace askcount::app {

class ShootHead;

/// D: the change is done. K: skip it. N: a note at this frame. P: pause. A: alarms heard or not.
class ShootStage : public Stage {
  Q_OBJECT
 public:
  ShootStage(Desk& desk, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return desk_.run().active() ? "Running" : "Beside the tripod"; }
  QString foot() const override;
  bool done() const override { return desk_.gathered().has_value(); }
  bool key(QKeyEvent* event) override;

 private:
  void refresh();
  void show_newest();
  void change(bool skipped);
  void alarm();
  QWidget* make_page();
  std::optional<std::filesystem::path> newest() const;

  FramePictures pictures_;
  Sentence* sentence_;
  SlotField *scene_, *speed_, *limits_, *faults_, *at_;
  PressButton *start_, *accompany_, *pause_, *stop_, *done_, *skip_, *battery_, *card_;
  ShootHead* head_;
  PictureView* picture_;
  QLabel *heading_, *log_, *next_, *why_;
  QLineEdit* note_;
  WordTabs* tabs_;
  RehearsePane* rehearse_;
  QTimer tick_;
  Desk::ShootWish wish_;
  QString faults_text_;
  bool heard_ = false;      // alarms are heard
  long long alarmed_ = -1;  // the click an alarm was given for
};

}  // namespace askcount::app
