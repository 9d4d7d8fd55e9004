// Wires a slot of a sentence to one value of the take.
#pragma once

#include <functional>
#include <QString>
#include <string>

#include "app/shell/desk.h"
#include "app/widgets/sentence.h"

namespace askcount::app {

inline QString to_q(const std::string& text) {
  return QString::fromStdString(text);
}

/// The first number in what was typed, whatever unit stands behind it. Throws BadInput, naming the value,
/// where there is none or it is out of range.
double number_in(const std::string& text, double low, double high, const std::string& name);

/// What is typed goes through `set` (which may throw askcount::Error: the sentence then says why), as one
/// step that can be undone. `nudge` steps the value; leave it out where there is nothing to step.
void wire(Desk& desk, Sentence* sentence, SlotField* slot,
          std::function<void(take::Take&, const std::string&)> set,
          std::function<void(take::Take&, int)> nudge = {});

/// A slot that takes one of a few words, stepped round by the arrows.
void wire_choice(Desk& desk, SlotField* slot, const QStringList& words,
                 std::function<void(take::Take&, int)> set);

/// Calls `refresh` at every change of the desk while `pane` can be seen, and once when it comes into sight:
/// what nobody sees costs nothing.
void refresh_when_seen(Desk& desk, QWidget* pane, std::function<void()> refresh);

}  // namespace askcount::app
