#include "render/queue.h"

#include <algorithm>

#include "base/error.h"
#include "level/brightness.h"

namespace askcount::render {

Queue::Queue(const source::Frames& frames, std::span<const FilmOrder> orders) : orders_(orders) {
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
  if (!from) throw failed("None of the first frames can be read.", "Gather the take again.");
  return from;
}

Correction Queue::correction_of(size_t film, const Decoded& frame, const Decoded& from) {
  const FilmOrder& order = orders_[film];
  if (!levellings_[film]) return {order.gains.empty() ? 1 : order.gains[from.index]};
  // A neighbour that stands in is shown at the brightness this frame should have had.
  Levelling& levelling = *levellings_[film];
  const level::Levelled levelled = levelling.leveller.level(frame.index);
  levelling.as_shot.push_back(levelled.as_shot);
  return {image::gain_for(from.luminance[measured_as_[film]], levelled.target)};
}

std::shared_ptr<Due> Queue::pass(std::shared_ptr<Decoded> in) {
  if (in) {
    for (size_t film = 0; film < orders_.size(); ++film)
      if (levellings_[film])
        levellings_[film]->leveller.add(in->shown ? &in->luminance[measured_as_[film]] : nullptr);
    if (!in->trouble.empty()) troubles_.push_back(in->trouble);
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
