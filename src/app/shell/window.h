// SPDX-License-Identifier: GPL-3.0-or-later
// The window: bar, span, stage and findings, foot.
#pragma once

#include <memory>
#include <optional>
#include <QLabel>
#include <QMainWindow>
#include <QStackedWidget>
#include <QTimer>
#include <vector>

#include "app/session/contrast.h"
#include "app/session/session.h"
#include "app/shell/asked_bar.h"
#include "app/shell/big_picture.h"
#include "app/shell/empty_page.h"
#include "app/shell/findings_column.h"
#include "app/shell/findings_tally.h"
#include "app/shell/stage_bar.h"
#include "app/span/span.h"
#include "app/stages/stage.h"
#include "app/style/style.h"

namespace askcount::app {

class KeysPage;

class Window : public QMainWindow {
  Q_OBJECT
 public:
  Window();
  /// What is being typed is taken in, while there is still a take for it.
  ~Window() override;

  Session& session() { return session_; }
  /// Opens a take and reads its card. Trouble is shown and leaves the window as it was; returns whether it
  /// went well.
  bool open(const std::filesystem::path& file);
  /// A take, or a folder of frames, or the folder that a frame is in; what cannot be opened is said in the
  /// foot.
  bool open_any(const std::filesystem::path& what);
  int stage_count() const { return static_cast<int>(stages_.size()); }
  int current_stage() const;
  QString stage_name(int index) const { return names_[static_cast<size_t>(index)]; }
  /// Takes up an unsaved take of the last session where there is one, or else opens the last take; otherwise
  /// an empty one stays.
  void take_up_last();
  /// The page of all keys, for what is in front and has the focus now.
  std::unique_ptr<KeysPage> keys_page();
  Stage& stage(int index) { return *stages_[static_cast<size_t>(index)]; }

 public slots:
  void go_to(int index);
  void go_to_stage(const QString& name);
  /// Day or Studio, for the stage in front.
  void change_light();
  /// Lamp light on every stage, or back.
  void toggle_lamp();
  /// The column of findings of the stage in front, open or shut.
  void toggle_findings();
  /// The picture of the stage in front on the whole screen, or back; where it has none, nothing happens.
  void toggle_picture();
  /// The same in a window of its own, on another screen where there is one.
  void picture_apart();
  /// The two clocks slim or full, where pictures come first; kept for the next start.
  void toggle_span();

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void keyReleaseEvent(QKeyEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  QWidget* make_stack(QWidget* middle);
  void make_foot(QWidget* middle);
  void add_stages();
  void follow_session();
  void add_stage(int key, const char* name, Stage* stage, Lighting lighting);
  void make_actions();
  void refresh();
  /// Opens the column of findings where there is something to see to. By itself it shuts with its stage only,
  /// and does neither under a hand that drags.
  void place_findings();
  /// Whether the stage in front is one where pictures are judged.
  bool judges_pictures() const;
  void show_foot();
  void apply_light();
  void tell(const QString& words, bool bad);
  void ask_open();
  void ask_folder();
  /// Opens a take, or frames: a folder of them, or the folder that one of them lies in.
  void open_frames(const std::filesystem::path& folder);
  void take_way(EmptyNote::Way way);
  void ask_save_as();
  void ask_pack();
  void say_keys();
  void change_language(const QString& code);
  void change_contrast(Contrast contrast);
  void show_menu(QPoint below);
  void show_kit();
  void fix(const Fix& fix);

  Session session_;
  StageBar* bar_;
  SpanPlace* span_;
  QStackedWidget* stack_;
  EmptyPage* empty_;
  AskedBar* asked_;
  FindingsColumn* findings_;
  std::unique_ptr<BigPicture> big_;
  FindingsTally* tally_;
  std::vector<std::optional<bool>> columns_;  // of each stage: the column opened or shut by hand
  bool just_entered_ = false;                 // the stage, and its column was not placed yet
  QTimer let_go_;                             // until no hand drags
  QWidget* foot_;
  QLabel *foot_left_, *foot_right_;
  std::vector<Stage*> stages_;
  std::vector<QString> names_;
  std::vector<Lighting> lights_;
  bool lamp_ = false;
  QString said_;
  bool said_bad_ = false;
  Keys keys_;
};

}  // namespace askcount::app
