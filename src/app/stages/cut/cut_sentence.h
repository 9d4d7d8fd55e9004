// The film in a sentence: every slot is a value of what the take wishes of the film looked at.
#pragma once

#include "app/session/session.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

class CutSentence : public Sentence {
  Q_OBJECT
 public:
  CutSentence(Session& session, QWidget* parent);
  /// Shows what the take wishes.
  void show_wish();

 private:
  using Wish = take::FilmWish;
  /// Wires a slot to the film looked at, as slot_wiring does for the take.
  void wire_film(SlotField* slot, std::function<void(Wish&, const std::string&)> set,
                 std::function<void(Wish&, int)> nudge = {});
  void wire_film_choice(SlotField* slot, const QStringList& words, std::function<void(Wish&, int)> set);
  void wire_frames();
  void wire_pace();
  void wire_shape();
  long long count() const { return std::max(1LL, session_.playhead.count()); }

  Session& session_;
  SlotField *length_, *first_, *last_, *fps_, *every_, *pace_, *between_, *way_, *trail_, *steady_, *view_,
      *size_, *purpose_, *quality_;
};

/// What lies under, over and beside the film: fades, sound, writing, what it says of itself.
class BesideSentence : public Sentence {
  Q_OBJECT
 public:
  BesideSentence(Session& session, QWidget* parent);
  void show_wish();

 private:
  using Wish = take::FilmWish;
  void wire_film(SlotField* slot, std::function<void(Wish&, const std::string&)> set,
                 std::function<void(Wish&, int)> nudge = {});
  void choose_sound(const std::string& typed);

  Session& session_;
  SlotField *fade_in_, *fade_out_, *hold_first_, *hold_last_, *sound_, *sound_from_, *text_, *clock_, *scale_,
      *says_, *words_, *author_, *chapters_, *kernel_, *poster_, *report_;
};

}  // namespace askcount::app
