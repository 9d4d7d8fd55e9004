// SPDX-License-Identifier: GPL-3.0-or-later
// The films of one reading: frames go in as they are decoded, film frames come out as they are due.
#pragma once

#include <atomic>
#include <memory>
#include <string>
#include <vector>

#include "render/decoded.h"
#include "render/film_line.h"

namespace askcount::render {

/// Film frames that are due, of each film.
using Due = std::vector<std::vector<DueFrame>>;

/// Used from one thread at a time, but for what is said to be safe.
class Queue {
 public:
  /// `reading` is the order in which frames (their numbers in the take) will come.
  Queue(std::vector<FilmLine*> lines, const std::vector<size_t>& reading);

  /// The next frame of the reading. Throws TooManyUnreadable where more frames in a row, or of all, cannot be
  /// read than neighbours may stand in for.
  Due pass(std::shared_ptr<const Decoded> in);
  /// What is due besides, with no new frame; `ended` says that none come any more.
  Due more(bool ended);

  /// Whether film frames wait that are due, and whether all films have all of theirs. Safe from any thread.
  bool waiting() const { return waiting_; }
  bool done() const { return done_; }

  const std::vector<std::string>& troubles() const { return troubles_; }
  /// Places of a film's sequence by the number in the reading; kNone for frames it does not show.
  static constexpr size_t kNone = static_cast<size_t>(-1);
  size_t place_of(size_t film, size_t number) const { return places_[film][number]; }

 private:
  void count_trouble(const Decoded& in);
  Due due();

  std::vector<FilmLine*> lines_;
  std::vector<std::vector<size_t>> places_;
  std::vector<size_t> measured_as_;  // place of a film in Decoded::luminance
  std::vector<std::string> troubles_;
  size_t total_, number_ = 0;
  size_t in_a_row_ = 0;  // that could not be read, up to the last one that came
  std::atomic<bool> waiting_ = false, done_ = false;
};

}  // namespace askcount::render
