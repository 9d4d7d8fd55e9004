// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/queue.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/language.h"
#include "render/render.h"

namespace askcount::render {
namespace {

constexpr size_t kAtOnce = 2;  // film frames of one film that are drawn together

}  // namespace

Queue::Queue(std::vector<FilmLine*> lines, const std::vector<size_t>& reading)
    : lines_(std::move(lines)), total_(reading.size()) {
  size_t measured = 0;
  for (const FilmLine* line : lines_) {
    measured_as_.push_back(measured);
    if (line->levels()) ++measured;
    const std::vector<size_t>& sequence = line->plan().timeline().sequence();
    std::vector<size_t> places(reading.size(), kNone);
    size_t place = 0;
    for (size_t n = 0; n < reading.size() && place < sequence.size(); ++n)
      if (reading[n] == sequence[place]) places[n] = place++;
    places_.push_back(std::move(places));
  }
}

void Queue::count_trouble(const Decoded& in) {
  if (in.trouble.empty()) {
    in_a_row_ = 0;
    return;
  }
  if (std::find(troubles_.begin(), troubles_.end(), in.trouble) == troubles_.end())
    troubles_.push_back(in.trouble);
  ++in_a_row_;
  const size_t first = in.index + 1 - std::min(in_a_row_, in.index + 1);
  // All of a film that short cannot be stood in for either.
  if (in_a_row_ > kMostInARow || in_a_row_ == total_) throw TooManyUnreadable(first, in.index, in.trouble);
  const double most = std::max<double>(kMostInARow, kMostStandIns * static_cast<double>(total_));
  if (static_cast<double>(troubles_.size()) > most)
    throw TooManyUnreadable(first, in.index,
                            say("{} of {} frames cannot be read by now: no more than {} % of a film may be "
                                "made of their neighbours. {}",
                                troubles_.size(), total_, kMostStandIns * 100, in.trouble));
}

Due Queue::due() {
  Due due;
  bool waiting = false, done = true;
  for (FilmLine* line : lines_) {
    due.push_back(line->take(kAtOnce));
    waiting |= line->ready();
    done &= line->done();
  }
  waiting_ = waiting;
  done_ = done;
  return due;
}

Due Queue::pass(std::shared_ptr<const Decoded> in) {
  count_trouble(*in);
  for (size_t film = 0; film < lines_.size(); ++film)
    if (places_[film][number_] != kNone) lines_[film]->add(in, measured_as_[film]);
  ++number_;
  return due();
}

Due Queue::more(bool ended) {
  if (ended)
    for (FilmLine* line : lines_) line->close();
  return due();
}

}  // namespace askcount::render
