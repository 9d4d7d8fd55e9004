// SPDX-License-Identifier: GPL-3.0-or-later
// The film in a sentence: every slot is a value of what the take wishes of the film looked at.
#pragma once

#include <functional>
#include <vector>

#include "app/session/session.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

/// Which frames, how fast, how large and what for; and what else was said of the film, a phrase for each.
/// What was not said waits as a word to add.
class CutSentence : public Sentence {
  Q_OBJECT
 public:
  using Wish = take::FilmWish;
  CutSentence(Session& session, QWidget* parent);
  /// Shows what the take wishes.
  void show_wish();
  /// What there is a phrase for, by FilmLanes::Lane.
  std::vector<int> lanes() const;

 private:
  /// A phrase: whether the wish says it, how its slots show it, and what it says first once it is added.
  struct Part {
    int lane = -1;  // of FilmLanes; none
    std::function<bool(const Wish&)> said;
    std::function<void(const Wish&)> show;
    std::function<void(Wish&)> first;
  };
  void wire_film(SlotField* slot, std::function<void(Wish&, const std::string&)> set,
                 std::function<void(Wish&, int)> nudge = {});
  void wire_film_choice(SlotField* slot, const QStringList& words, std::function<void(Wish&, int)> set);
  void wire_frames();
  void wire_shape();
  /// `before` and `after` stand around the slot; `unsaid` takes back what it says.
  SlotField* add_part(const QString& word, const QString& before, const QString& name, const QString& after,
                      Part part, std::function<void(Wish&)> unsaid);
  void add_pace_parts();
  void add_way_of_frames();
  void add_time_parts();
  void add_view_part();
  void add_beside_parts();
  void add_written_parts();
  void add_said_parts();
  void add_sound_part();
  void choose_sound(const std::string& typed);
  long long count() const { return std::max(1LL, session_.playhead.count()); }

  Session& session_;
  SlotField *length_, *first_, *last_, *fps_, *size_, *purpose_;
  std::vector<Part> parts_;  // by the phrases' numbers
};

}  // namespace askcount::app
