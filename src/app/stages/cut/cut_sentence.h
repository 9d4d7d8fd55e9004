// SPDX-License-Identifier: GPL-3.0-or-later
// The film in a sentence: every slot is a value of what the take wishes of the film looked at.
#pragma once

#include "app/session/session.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

/// Slots for what the take wishes of the film looked at.
class FilmSentence : public Sentence {
  Q_OBJECT
 public:
  using Wish = take::FilmWish;
  FilmSentence(Session& session, double points, QWidget* parent)
      : Sentence(parent, points), session_(session) {}

 protected:
  /// Wire a slot to that film, as slot_wiring does to the take.
  void wire_film(SlotField* slot, std::function<void(Wish&, const std::string&)> set,
                 std::function<void(Wish&, int)> nudge = {});
  void wire_film_choice(SlotField* slot, const QStringList& words, std::function<void(Wish&, int)> set);

  Session& session_;
};

/// Which frames, how fast, seen how, encoded how.
class CutSentence : public FilmSentence {
  Q_OBJECT
 public:
  CutSentence(Session& session, QWidget* parent);
  /// Shows what the take wishes.
  void show_wish();

 private:
  void wire_frames();
  void wire_pace();
  void wire_shape();
  long long count() const { return std::max(1LL, session_.playhead.count()); }

  SlotField *length_, *first_, *last_, *fps_, *every_, *pace_, *between_, *way_, *trail_, *steady_, *view_,
      *size_, *purpose_, *quality_;
};

/// What lies under, over and beside the film: fades, sound, writing, what it says of itself.
class BesideSentence : public FilmSentence {
  Q_OBJECT
 public:
  BesideSentence(Session& session, QWidget* parent);
  void show_wish();

 private:
  void add_slots();
  void wire_times();
  void wire_choices();
  void wire_texts();
  void choose_sound(const std::string& typed);

  SlotField *fade_in_, *fade_out_, *hold_first_, *hold_last_, *sound_, *sound_from_, *text_, *clock_, *scale_,
      *says_, *words_, *author_, *chapters_, *kernel_, *poster_, *report_;
};

}  // namespace askcount::app
