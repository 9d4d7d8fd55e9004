// SPDX-License-Identifier: GPL-3.0-or-later
// A timer to practise on: its fields, and what its wheel and keys do to them, told as real ones are keyed.
#pragma once

#include <string>
#include <vector>

#include "timer/keyed.h"

namespace askcount::timer {

enum class Key { Set, Left, Right, Up, Down, Start, Lock, Lamp };

/// What its display shows.
struct FaceLines {
  std::string field;  ///< the words printed for the field in front, and where it is among them: "Every  3/5"
  std::string value;  ///< "00:00:05", "  250", "off"
  int digit = -1;     ///< the place of `value` that the arrows change; −1 while nothing is being set
  std::string state;  ///< "running", "locked" or empty
  bool lamp = false;
};

/// One of its fields as it stands there all the time.
struct FaceField {
  std::string word;   ///< printed above it
  std::string value;  ///< as FaceLines::value
  bool front = false;
};

/// Set goes into a field and out of it again; left and right choose the field, or the digit within one; up
/// and down change it. Start starts and stops; lock keeps every key but itself from doing anything. Times are
/// hours, minutes and seconds, with a tenth where the timer knows them; a timer that only presses has no
/// hold.
class Face {
 public:
  explicit Face(const Timer& timer);

  void press(Key key);
  FaceLines lines() const;
  /// All fields, side by side.
  std::vector<FaceField> all() const;
  /// Brings a field to the front, as the arrows would; nothing while one is being set.
  void choose(size_t field);
  bool running() const { return running_; }
  bool locked() const { return locked_; }
  /// What was keyed in so far.
  Keyed keyed() const;
  const Timer& timer() const { return timer_; }

 private:
  enum class Field { Delay, Hold, Time, Count, Sound };
  std::vector<Field> fields() const;
  const std::string& word_of(Field field) const;
  std::string shown(Field field) const;
  double& value_of(Field field);
  double value_of(Field field) const { return const_cast<Face*>(this)->value_of(field); }
  int digits(Field field) const;
  void change(int by);

  Timer timer_;
  size_t at_ = 0;
  bool setting_ = false, running_ = false, locked_ = false, lamp_ = false;
  int digit_ = 0;
  double delay_ = 0, hold_ = 0, time_ = 1, count_ = 1, sound_ = 1;
};

}  // namespace askcount::timer
