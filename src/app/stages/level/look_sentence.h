// SPDX-License-Identifier: GPL-3.0-or-later
// The values of the look at the frame looked at: those that were changed; the others wait as words to add.
#pragma once

#include <array>

#include "app/stages/level/look_lanes.h"
#include "app/widgets/sentence.h"
#include "look/look.h"

namespace askcount::app {

/// A line for each value that is changed anywhere on the film, or was just added. The lanes show the same
/// ones.
class LookSentence : public Sentence {
  Q_OBJECT
 public:
  /// `lanes` outlives it.
  LookSentence(Session& session, LookLanes& lanes, QWidget* parent);

 private:
  void show_look();
  void wire_value(int lane);

  Session& session_;
  LookLanes& lanes_;
  std::array<SlotField*, look::kLanes> slots_{};
};

}  // namespace askcount::app
