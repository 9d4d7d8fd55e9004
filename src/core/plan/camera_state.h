// SPDX-License-Identifier: GPL-3.0-or-later
// What a camera makes of the timer's presses, one after the other: the forecast and the stand-in both ask
// here.
#pragma once

#include <cstddef>
#include <vector>

#include "plan/power.h"

namespace askcount::plan {

/// What a camera and what comes along can do.
struct CameraLimits {
  int brackets = 1;              ///< exposures of a shot
  double shot_mb = 0;            ///< files of a shot
  Seconds writing_s = 0;         ///< busy after a shot until the next may start
  bool dark_frames = false;      ///< busy as long again as it was open
  double buffer_mb = 0;          ///< 0 for one that is never full
  double drained_mb_s = 0;       ///< to the card
  std::vector<Power> power;      ///< one after the other; empty for one that never ends
  std::vector<double> cards_mb;  ///< one after the other; empty for one that is never full
};

/// What became of a press.
enum class Heard { Yes, Busy, Buffer, Power, Card };
const char* heard_word(Heard heard);  ///< "yes", "busy", "buffer", "battery", "card"

/// A camera on its way through a take. Plain and quick: ten million presses a second.
class CameraState {
 public:
  explicit CameraState(CameraLimits limits);

  /// A press at a moment (in order, seconds from wherever) for a shot that is open so long, pauses between
  /// exposures included; `exposed_s`, without the pauses, is what dark frames take. It is switched on for
  /// `on_s` until the next press, whether it hears this one or not.
  Heard press(Seconds at_s, Seconds open_s, Seconds exposed_s, Seconds on_s);

  /// Of the battery or bank in use, the card in use, the buffer.
  double power_left() const;
  /// Of all that comes along, power or cards, whichever is less.
  double left() const;
  double card_full() const;
  double buffer_full() const;
  bool dead() const { return no_power_ || (!limits_.power.empty() && power_at_ >= limits_.power.size()); }
  bool full() const { return no_card_ || (!limits_.cards_mb.empty() && card_at_ >= limits_.cards_mb.size()); }

  /// A hand puts in a fresh one like the last that was in use.
  void fresh_power();
  void fresh_card();
  /// It ends here and now, whatever there was left.
  void end_power() { no_power_ = true; }
  void end_card() { no_card_ = true; }

 private:
  CameraLimits limits_;
  Seconds busy_until_s_ = -1e18, drained_at_s_ = -1e18;
  double waiting_mb_ = 0, card_mb_ = 0, exposures_ = 0;
  Seconds on_s_ = 0;
  size_t power_at_ = 0, card_at_ = 0;
  bool no_power_ = false, no_card_ = false;
};

}  // namespace askcount::plan
