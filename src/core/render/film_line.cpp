// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/film_line.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "base/language.h"
#include "level/brightness.h"

namespace askcount::render {
namespace {

/// Frames by their number in the take, as places of a film's sequence.
std::vector<size_t> places_of(const std::vector<size_t>& frames, const std::vector<size_t>& sequence) {
  std::vector<size_t> places;
  for (size_t place = 0; place < sequence.size(); ++place)
    if (std::find(frames.begin(), frames.end(), sequence[place]) != frames.end()) places.push_back(place);
  return places;
}

}  // namespace

FilmLine::FilmLine(const FilmOrder& order, const media::Frames& frames, image::Size frame,
                   motion::Steadied steadied)
    : order_(order), plan_(order, frames->size(), frame, std::move(steadied)) {
  if (!levels_on_the_way(order)) return;
  const std::vector<size_t>& sequence = plan_.timeline().sequence();
  const auto recorded = level::exposures_of(*frames);
  std::vector<std::optional<double>> exposures;
  for (const size_t n : sequence) exposures.push_back(recorded[n]);
  level::Smoothing smoothing = order.smoothing;
  smoothing.smooth = places_of(smoothing.smooth, sequence);
  smoothing.keep = places_of(smoothing.keep, sequence);
  leveller_.emplace(exposures, smoothing);
  lookahead_ = leveller_->lookahead();
}

void FilmLine::none_readable() const {
  throw failed(say("Not one of the frames that {} needs can be read.", order_.output.string()));
}

size_t FilmLine::holds() const {
  return lookahead_ + 2 + static_cast<size_t>(std::max(1LL, order_.choice.trail));
}

void FilmLine::add(std::shared_ptr<const Decoded> frame, size_t luminance) {
  luminance_ = luminance;
  if (leveller_) leveller_->add(frame->shown ? &frame->luminance[luminance] : nullptr);
  slots_.push_back({std::move(frame), {}, {}});
  ++added_;
  settle();
}

size_t FilmLine::settled() const {
  if (closed_ || !leveller_) return added_;
  return added_ > lookahead_ ? added_ - lookahead_ : 0;
}

void FilmLine::settle() {
  if (!leveller_) return;
  for (; levelled_ < settled(); ++levelled_) {
    const level::Levelled l = leveller_->level(levelled_);
    if (leveller_->set_aside(levelled_))
      set_aside_.push_back(plan_.timeline().sequence()[levelled_]);
    else
      as_shot_.push_back(l.as_shot - leveller_->kept_light(levelled_));
    slots_[levelled_ - base_].levelled = l;
  }
}

std::optional<size_t> FilmLine::readable_before(size_t place) const {
  for (size_t n = place + 1; n-- > base_;)
    if (readable(n)) return n;
  return {};
}

std::optional<size_t> FilmLine::readable_after(size_t place) const {
  for (size_t n = std::max(place, base_); n < std::min(settled(), base_ + slots_.size()); ++n)
    if (readable(n)) return n;
  return {};
}

/// The frames it holds as a recipe asks for them.
class FilmLine::Readable : public Showable {
 public:
  explicit Readable(const FilmLine& line) : line_(line) {}
  bool at(size_t place) const override { return line_.readable(place); }
  std::optional<size_t> before(size_t place) const override { return line_.readable_before(place); }
  std::optional<size_t> after(size_t place) const override { return line_.readable_after(place); }

 private:
  const FilmLine& line_;
};

bool FilmLine::is_due(size_t film_frame) const {
  const FilmPlan::Span span = plan_.span_of(film_frame);
  if (span.last >= settled()) return false;
  // Where it cannot be read the next that can is waited for.
  return closed_ || readable_after(span.last).has_value();
}

bool FilmLine::ready() const {
  if (done()) return false;
  if (order_.choice.bright != 0 && next_bright_ < settled() &&
      next_bright_ <= static_cast<size_t>(plan_.timeline().place(next_)))
    return true;
  return is_due(next_);
}

Layer FilmLine::layer_of(size_t place, size_t for_place, size_t film_frame, float weight) {
  Slot& slot = slots_[place - base_];
  Layer layer;
  layer.from = slot.frame;
  layer.weight = weight;
  layer.plan = plan_.layer_plan(film_frame, static_cast<double>(plan_.timeline().sequence()[for_place]),
                                slot.frame->index, slot.frame->full, worked_out(slot, for_place));
  return layer;
}

/// The correction that was worked out on the way; nothing where the order knows them. A neighbour that stands
/// in is shown at the brightness the frame should have had.
std::optional<level::Correction> FilmLine::worked_out(Slot& slot, size_t for_place) const {
  if (!leveller_) return {};
  const image::Luminance& light = slot.frame->luminance[luminance_];
  Slot const& meant = slots_[for_place - base_];
  if (&meant != &slot) return level::correction_of(*leveller_, light, *meant.levelled);
  if (!slot.own) slot.own = level::correction_of(*leveller_, light, *slot.levelled);
  return slot.own;
}

DueFrame FilmLine::due_of(const Recipe& recipe, size_t film_frame, double take_place) {
  if (recipe.parts.empty()) none_readable();
  DueFrame due;
  due.joining = recipe.joining;
  due.share = recipe.share;
  due.made = recipe.made;
  due.plan = plan_.plan_at(film_frame, take_place);
  for (const Recipe::Part& p : recipe.parts)
    due.layers.push_back(layer_of(p.place, p.for_place, film_frame, p.weight));
  return due;
}

/// Every frame up to the film's next one goes into the trails, one at a time; the last of them is the film's.
void FilmLine::brighten(std::vector<DueFrame>& into, size_t most) {
  while (into.size() < most && !done()) {
    const auto at = static_cast<size_t>(plan_.timeline().place(next_));
    if (next_bright_ > at) next_bright_ = at;  // slower than they were shot: once more
    if (next_bright_ >= settled() || !(closed_ || readable_after(next_bright_))) return;
    const bool film_frame = next_bright_ == at;
    DueFrame due = due_of(FilmPlan::recipe_of_place(next_bright_, Readable(*this)), next_,
                          static_cast<double>(plan_.timeline().sequence()[next_bright_]));
    due.joining = Joining::Brightest;
    due.shown = film_frame;
    made_ += film_frame && due.made ? 1 : 0;
    into.push_back(std::move(due));
    ++next_bright_;
    if (film_frame) ++next_;
    drop();
  }
}

std::vector<DueFrame> FilmLine::take(size_t most) {
  settle();
  std::vector<DueFrame> out;
  if (order_.choice.bright != 0) {
    brighten(out, most);
    return out;
  }
  while (out.size() < most && !done() && is_due(next_)) {
    out.push_back(due_of(plan_.recipe_of(next_, Readable(*this)), next_, plan_.timeline().take_place(next_)));
    made_ += out.back().made ? 1 : 0;
    ++next_;
    drop();
  }
  return out;
}

/// Frames that nothing needs any more go; the last readable one before those that are needed stays.
void FilmLine::drop() {
  size_t needed = done() ? added_ : plan_.span_of(next_).first;
  if (order_.choice.bright != 0) needed = std::min(needed, next_bright_);
  if (leveller_) needed = std::min(needed, levelled_);
  std::optional<size_t> keep;
  for (size_t n = std::min(needed, base_ + slots_.size() - 1) + 1; n-- > base_ && !keep;)
    if (n < needed && readable(n)) keep = n;
  const size_t first = keep ? *keep : base_;
  while (base_ < first) {
    slots_.pop_front();
    ++base_;
  }
}

std::optional<double> FilmLine::flicker_before() const {
  return leveller_ ? std::optional(level::flicker(as_shot_)) : std::nullopt;
}

}  // namespace askcount::render
