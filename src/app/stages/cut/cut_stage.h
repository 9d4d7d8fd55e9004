// Cut: the film in a sentence, made, checked and played.
#pragma once

#include "app/stages/cut/film_player.h"
#include "app/stages/stage.h"
#include "app/widgets/press_button.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class CutStage : public Stage {
  Q_OBJECT
 public:
  CutStage(Session& session, QWidget* parent);
  Findings findings() const override;
  QString findings_title() const override { return "The clip"; }
  QString foot() const override;
  bool done() const override { return session_.films.film().has_value(); }
  std::optional<EmptyNote> empty() const override;
  void play() override { player_->toggle(); }
  void entered() override;

 private:
  void refresh();
  void make();
  void show_pace();

  Sentence* sentence_;
  void make_sentence(QVBoxLayout* rows);
  void show_sentence();

  SlotField *length_, *first_, *last_, *fps_, *every_, *pace_slot_, *between_, *way_, *trail_, *steady_,
      *size_, *purpose_, *quality_;
  PressButton *make_, *cancel_, *play_;
  QLabel* pace_;
  class Bar;
  Bar* bar_;
  FilmPlayer* player_;
  int shown_film_ = 0;  // the number of the film that the player has; 0 for none
};

}  // namespace askcount::app
