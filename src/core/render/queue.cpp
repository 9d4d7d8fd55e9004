#include "render/queue.h"

#include <fmt/format.h>

#include <algorithm>

#include "base/error.h"
#include "level/brightness.h"
#include "render/render.h"

namespace askcount::render {

Queue::Queue(const source::Frames& frames, std::span<const FilmOrder> orders)
    : orders_(orders), total_(frames->size()) {
  const auto exposures = level::exposures_of(*frames);
  size_t measured = 0;
  for (const FilmOrder& order : orders) {
    measured_as_.push_back(measured);
    if (!levels_on_the_way(order)) {
      levellings_.emplace_back();
      continue;
    }
    ++measured;
    levellings_.push_back(Levelling{level::Leveller(exposures, order.smoothing), {}});
    lookahead_ = std::max(lookahead_, levellings_.back()->leveller.lookahead());
  }
}

std::shared_ptr<Decoded> Queue::stand_in_for(const Decoded& frame) const {
  // The neighbour nearest in time.
  const auto next =
      std::find_if(held_.begin(), held_.end(), [](const auto& h) { return h->shown != nullptr; });
  const bool there = next != held_.end();
  const bool nearer = there && (!last_ || (*next)->index - frame.index < frame.index - last_->index);
  const std::shared_ptr<Decoded>& from = nearer ? *next : last_;
  return from;  // there is one: more than a few in a row are refused as they come
}

level::Correction Queue::correction_of(size_t film, const Decoded& frame, const Decoded& from) {
  const FilmOrder& order = orders_[film];
  if (!levellings_[film])
    return order.corrections.empty() ? level::Correction() : order.corrections[from.index];
  // A neighbour that stands in is shown at the brightness this frame should have had.
  Levelling& levelling = *levellings_[film];
  const level::Levelled levelled = levelling.leveller.level(frame.index);
  levelling.as_shot.push_back(levelled.as_shot - levelling.leveller.kept_light(frame.index));
  return level::correction_of(levelling.leveller, from.luminance[measured_as_[film]], levelled);
}

void Queue::count_trouble(const Decoded& in) {
  if (in.trouble.empty()) {
    in_a_row_ = 0;
    return;
  }
  troubles_.push_back(in.trouble);
  ++in_a_row_;
  const size_t first = in.index + 1 - in_a_row_;
  // All of a film that short cannot be stood in for either.
  if (in_a_row_ > kMostInARow || in_a_row_ == total_) throw TooManyUnreadable(first, in.index, in.trouble);
  const double most = std::max<double>(kMostInARow, kMostStandIns * static_cast<double>(total_));
  if (static_cast<double>(troubles_.size()) > most)
    throw TooManyUnreadable(
        first, in.index,
        fmt::format("{} of {} frames cannot be read by now: no more than {} % of a film may be "
                    "made of their neighbours. {}",
                    troubles_.size(), total_, kMostStandIns * 100, in.trouble));
}

std::shared_ptr<Due> Queue::pass(std::shared_ptr<Decoded> in) {
  if (in) {
    for (size_t film = 0; film < orders_.size(); ++film)
      if (levellings_[film])
        levellings_[film]->leveller.add(in->shown ? &in->luminance[measured_as_[film]] : nullptr);
    count_trouble(*in);
    held_.push_back(std::move(in));
    if (held_.size() <= lookahead_) return {};
  }
  if (held_.empty()) return {};
  const std::shared_ptr<Decoded> frame = held_.front();
  held_.pop_front();
  const std::shared_ptr<Decoded> from = frame->shown ? frame : stand_in_for(*frame);
  if (frame->shown) last_ = frame;
  auto due = std::make_shared<Due>();
  due->shown = from->shown;
  due->part = from->part;
  for (size_t film = 0; film < orders_.size(); ++film)
    due->plans.push_back(plan_of(orders_[film], from->index, from->full, correction_of(film, *frame, *from)));
  return due;
}

double Queue::flicker_before(size_t film) const {
  return levellings_[film] ? level::flicker(levellings_[film]->as_shot) : 0;
}

}  // namespace askcount::render
