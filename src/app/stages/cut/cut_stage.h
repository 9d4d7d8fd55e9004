// SPDX-License-Identifier: GPL-3.0-or-later
// Cut: the films in a sentence each, seen before they are made, made, checked and played.
#pragma once

#include "app/stages/cut/cut_sentence.h"
#include "app/stages/cut/film_lanes.h"
#include "app/stages/cut/film_player.h"
#include "app/stages/cut/films_bar.h"
#include "app/stages/cut/preview_player.h"
#include "app/stages/cut/queue_pane.h"
#include "app/stages/cut/view_pane.h"
#include "app/stages/stage.h"
#include "app/style/text.h"
#include "app/widgets/picture_first.h"
#include "app/widgets/picture_place.h"
#include "app/widgets/press_button.h"
#include "app/widgets/word_tabs.h"

namespace askcount::app {

class CutStage : public Stage {
  Q_OBJECT
 public:
  CutStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return say_q("The film"); }
  QString foot() const override;
  bool done() const override { return session_.films.film().has_value(); }
  std::optional<EmptyNote> empty() const override;
  void play() override;
  void entered() override;
  PicturePlace* picture() override { return place_; }
  QString picture_words() const override { return state_->text(); }

 protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

 private:
  QWidget* make_strip();
  QWidget* make_side();
  void refresh();
  void show_state();
  void follow_player();
  void follow_playhead();
  bool as_made() const { return pages_->currentWidget() == player_; }

  CutSentence* sentence_;
  PictureFirst* first_;
  PicturePlace* place_;
  FilmLanes* lanes_;
  PreviewPlayer* preview_;
  FilmPlayer* player_;
  WordTabs* tabs_;
  Pages* pages_;
  PressButton *make_, *still_, *play_;
  QWidget* view_;
  QLabel *state_, *takes_;
  int shown_film_ = 0,
      shown_at_ = 0;        // the number of the film that the player has, 0 for none, and which it is
  bool following_ = false;  // the playhead follows the film
};

}  // namespace askcount::app
