// SPDX-License-Identifier: GPL-3.0-or-later
// Wires what is shown on a stage to the session: slots to values of the take, panes to what changes them.
#pragma once

#include <functional>
#include <QString>
#include <string>

#include "app/session/session.h"
#include "app/style/text.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

/// What is typed goes through `set` (which may throw askcount::Error: the sentence then says why), as one
/// step that can be undone. `nudge` steps the value; leave it out where there is nothing to step.
void wire(Session& session, Sentence* sentence, SlotField* slot,
          std::function<void(take::Take&, const std::string&)> set,
          std::function<void(take::Take&, int)> nudge = {});

/// A slot that takes one of a few words, stepped round by the arrows; `set` gets the word's place.
void wire_words(SlotField* slot, const QStringList& words, std::function<void(int)> set);
/// The same for a value of the take.
void wire_choice(Session& session, SlotField* slot, const QStringList& words,
                 std::function<void(take::Take&, int)> set);

/// Calls a pane's refresh at every signal it listens to while the pane can be seen, when it comes into sight,
/// and when the light of the window changes: what nobody sees costs nothing.
class WhenSeen : public QObject {
 public:
  WhenSeen(QWidget* pane, std::function<void()> refresh);
  template <typename Sender, typename Signal>
  WhenSeen& on(Sender& sender, Signal signal) {
    connect(&sender, signal, this, [this] { heard(); });
    return *this;
  }
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void heard();

  QWidget* pane_;
  std::function<void()> refresh_;
};

/// A WhenSeen that lives as long as `pane`: say with on() what it listens to.
WhenSeen& refresh_when_seen(QWidget* pane, std::function<void()> refresh);

}  // namespace askcount::app
