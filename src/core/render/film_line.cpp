#include "render/film_line.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/error.h"
#include "level/brightness.h"

namespace askcount::render {
namespace {

constexpr double kNoTurn = 0.033;  // film pixels from side to side
constexpr double kMargin = 0.004;  // of the frame read around a view, for what its edge pixels reach for

image::RectF within_frame(const image::RectF& p) {
  const double x = std::clamp(p.x - kMargin, 0.0, 1.0), y = std::clamp(p.y - kMargin, 0.0, 1.0);
  return {x, y, std::clamp(p.x + p.width + kMargin, 0.0, 1.0) - x,
          std::clamp(p.y + p.height + kMargin, 0.0, 1.0) - y};
}

/// Frames by their number in the take, as places of a film's sequence.
std::vector<size_t> places_of(const std::vector<size_t>& frames, const std::vector<size_t>& sequence) {
  std::vector<size_t> places;
  for (size_t place = 0; place < sequence.size(); ++place)
    if (std::find(frames.begin(), frames.end(), sequence[place]) != frames.end()) places.push_back(place);
  return places;
}

}  // namespace

image::RectF joined_parts(const image::RectF& a, const image::RectF& b) {
  const double right = std::max(a.x + a.width, b.x + b.width),
               below = std::max(a.y + a.height, b.y + b.height);
  const double x = std::min(a.x, b.x), y = std::min(a.y, b.y);
  return {x, y, right - x, below - y};
}

FilmLine::FilmLine(const FilmOrder& order, const source::Frames& frames, image::Size frame,
                   steady::Steadied steadied)
    : order_(order),
      timeline_(order.choice, static_cast<long long>(frames->size()), order.fps),
      frame_(frame),
      steadied_(std::move(steadied)),
      mapped_(!order.views.empty() || !steadied_.corrections.empty() || order.crisp),
      measured_(film_part(frame, order.size)) {
  const std::vector<size_t>& sequence = timeline_.sequence();
  if (levels_on_the_way(order)) {
    const auto recorded = level::exposures_of(*frames);
    std::vector<std::optional<double>> exposures;
    for (const size_t n : sequence) exposures.push_back(recorded[n]);
    level::Smoothing smoothing = order.smoothing;
    smoothing.smooth = places_of(smoothing.smooth, sequence);
    smoothing.keep = places_of(smoothing.keep, sequence);
    leveller_.emplace(exposures, smoothing);
    lookahead_ = leveller_->lookahead();
  }
  if (!mapped_) return;
  cut::check_views(order.views, frame, order.size);
  // What each place of the sequence is seen through, by every film frame that uses it.
  needs_.resize(sequence.size(), {{0, 0, 0, 0}, 0});
  std::optional<image::RectF> all;
  for (size_t n = 0; n < timeline_.frames(); ++n) {
    const cut::View v = view(n);
    const double density = 1 / (cut::density(v, frame, order.size) * (1 - steadied_.edge));
    const image::RectF plain = cut::part_of(v, frame, order.size);
    all = all ? joined_parts(*all, plain) : plain;
    const Span span = span_of(n);
    const size_t to = std::min(span.last + 1, sequence.size() - 1);
    for (size_t place = span.first; place <= to; ++place) {
      Need& need = needs_[place];
      image::RectF part = plain;
      if (!steadied_.corrections.empty()) {
        const image::Affine map = map_of(n, sequence[place], frame);
        double left = 1e9, right = -1e9, above = 1e9, below = -1e9;
        for (const double cx : {0, order.size.width})
          for (const double cy : {0, order.size.height}) {
            const auto [x, y] = map(cx, cy);
            left = std::min(left, x), right = std::max(right, x);
            above = std::min(above, y), below = std::max(below, y);
          }
        part = {left / frame.width, above / frame.height, (right - left) / frame.width,
                (below - above) / frame.height};
      }
      need.part = need.density > 0 ? joined_parts(need.part, part) : part;
      need.density = std::max(need.density, density);
    }
  }
  // What is known already says what it is over; what is worked out on the way is over what is seen.
  if (leveller_) measured_ = within_frame(*all);
  if (order.corrected_part) measured_ = *order.corrected_part;
  for (Need& need : needs_) {
    if (need.density <= 0) need.part = within_frame(*all), need.density = 0.01;
    need.part = within_frame(need.part);
    if (leveller_) need.part = joined_parts(need.part, measured_);
  }
}

cut::View FilmLine::view(size_t film_frame) const {
  return cut::view_at(order_.views, static_cast<double>(film_frame) / order_.fps.value(), frame_,
                      order_.size);
}

image::Affine FilmLine::map_of(size_t film_frame, size_t take_frame, image::Size full) const {
  image::Affine map = cut::film_to_frame(view(film_frame), full, order_.size);
  if (steadied_.corrections.empty()) return map;
  const double k = 1 - steadied_.edge, x = full.width / 2.0, y = full.height / 2.0;
  const image::Affine narrower = image::Affine{k, 0, x * (1 - k), 0, k, y * (1 - k)};
  map = steady::to_frame(steadied_.corrections[take_frame], full).after(narrower.after(map));
  // A turn that moves nothing by a thirtieth of the film's pixels anywhere is none: rows stay rows.
  if (std::hypot(map.xy, map.yx) * order_.size.width < kNoTurn * std::hypot(map.xx, map.yy)) {
    const auto [cx, cy] = map(order_.size.width / 2.0, order_.size.height / 2.0);
    map.x0 = cx - map.xx * order_.size.width / 2.0;
    map.y0 = cy - map.yy * order_.size.height / 2.0;
    map.xy = map.yx = 0;
  }
  return map;
}

Need FilmLine::need_of(size_t place, image::Size full) const {
  if (mapped_) return needs_[place];
  const image::RectF part = film_part(full, order_.size);
  return {part, order_.size.width / std::max(1.0, part.width * full.width)};
}

void FilmLine::none_readable() const {
  throw failed(fmt::format("Not one of the frames that {} needs can be read.", order_.output.string()));
}

size_t FilmLine::holds() const {
  const auto reach = static_cast<size_t>(leveller_ ? std::max(0, order_.smoothing.reach) : 0);
  return reach + 2 + static_cast<size_t>(std::max(1LL, order_.choice.trail));
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
    as_shot_.push_back(l.as_shot - leveller_->kept_light(levelled_));
    slots_[levelled_ - base_].levelled = l;
  }
}

/// The places a film frame is made of, were all of them readable.
FilmLine::Span FilmLine::span_of(size_t film_frame) const {
  const double place = timeline_.place(film_frame);
  const auto at = static_cast<size_t>(place);
  const bool beside = place > static_cast<double>(at);
  if (order_.choice.bright != 0) return {at, at};
  if (order_.choice.trail > 1) {
    const auto length = static_cast<size_t>(order_.choice.trail);
    return {at + 1 > length ? at + 1 - length : 0, beside ? at + 1 : at};
  }
  if (order_.choice.between == cut::Between::Repeat) return {at, at};
  return {at, beside ? at + 1 : at};
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

bool FilmLine::is_due(size_t film_frame) const {
  const Span span = span_of(film_frame);
  if (span.last >= settled()) return false;
  // Where it cannot be read the next that can is waited for.
  return closed_ || readable_after(span.last).has_value();
}

bool FilmLine::ready() const {
  if (done()) return false;
  if (order_.choice.bright != 0 && next_bright_ < settled() &&
      next_bright_ <= static_cast<size_t>(timeline_.place(next_)))
    return true;
  return is_due(next_);
}

FramePlan FilmLine::plan_at(size_t film_frame, double take_frame) const {
  FramePlan p;
  p.frame = static_cast<size_t>(take_frame);
  p.part = mapped_ ? measured_ : film_part(frame_, order_.size);
  p.film = order_.size;
  p.look = look::look_at(order_.looks, take_frame + static_cast<double>(order_.first_frame));
  p.as_shot_k = order_.looks.as_shot_k;
  p.cube = order_.looks.cube;
  p.kernel = order_.crisp ? image::Kernel::Crisp : image::Kernel::Calm;
  const auto n = static_cast<double>(film_frame);
  const auto last = static_cast<double>(timeline_.frames() - 1);
  const double in = order_.fade_in_s * order_.fps.value(), out = order_.fade_out_s * order_.fps.value();
  double fade = 1;
  if (in > 0) fade = std::min(fade, n / in);
  if (out > 0) fade = std::min(fade, (last - n) / out);
  p.fade = static_cast<float>(std::clamp(fade, 0.0, 1.0));
  return p;
}

Layer FilmLine::layer_of(size_t place, size_t for_place, size_t film_frame, float weight) {
  Slot& slot = slots_[place - base_];
  Layer layer;
  layer.from = slot.frame;
  layer.weight = weight;
  const size_t take_frame = slot.frame->index;
  layer.plan = plan_at(film_frame, static_cast<double>(timeline_.sequence()[for_place]));
  layer.plan.frame = take_frame;
  if (!mapped_) layer.plan.part = film_part(slot.frame->full, order_.size);
  if (mapped_) {
    layer.plan.map = map_of(film_frame, take_frame, slot.frame->full);
    layer.plan.frame_size = slot.frame->full;
  }
  if (!leveller_) {
    if (!order_.corrections.empty()) layer.plan.correction = order_.corrections[take_frame];
    return layer;
  }
  // A neighbour that stands in is shown at the brightness the frame should have had.
  const image::Luminance& light = slot.frame->luminance[luminance_];
  if (place != for_place) {
    layer.plan.correction = level::correction_of(*leveller_, light, *slots_[for_place - base_].levelled);
  } else {
    if (!slot.own) slot.own = level::correction_of(*leveller_, light, *slot.levelled);
    layer.plan.correction = *slot.own;
  }
  return layer;
}

DueFrame FilmLine::make(size_t film_frame) {
  const double place = timeline_.place(film_frame);
  const auto at = static_cast<size_t>(place);
  DueFrame due;
  due.plan = plan_at(film_frame, timeline_.take_place(film_frame));
  if (order_.choice.trail > 1) {
    const double to = place + 1, from = to - static_cast<double>(order_.choice.trail);
    const Span span = span_of(film_frame);
    float sum = 0;
    for (size_t n = span.first; n <= span.last; ++n) {
      const double share = std::min(to, static_cast<double>(n) + 1) - std::max(from, static_cast<double>(n));
      if (share <= 0 || !readable(n)) continue;
      due.layers.push_back(layer_of(n, n, film_frame, static_cast<float>(share)));
      sum += due.layers.back().weight;
    }
    for (Layer& l : due.layers) l.weight /= sum;
    due.joining = due.layers.size() > 1 ? Joining::Mean : Joining::One;
    if (!due.layers.empty()) return due;
  }
  // The nearest that can be read, before and after.
  const bool slower = order_.choice.between != cut::Between::Repeat;
  const auto whole = static_cast<double>(at);
  const double wanted = slower ? place : whole;
  const auto before = readable_before(at), after = readable_after(wanted > whole ? at + 1 : at);
  if (before && after && *before != *after && slower) {
    due.made = true;
    const double share = (wanted - static_cast<double>(*before)) / static_cast<double>(*after - *before);
    due.layers = {layer_of(*before, *before, film_frame, static_cast<float>(1 - share)),
                  layer_of(*after, *after, film_frame, static_cast<float>(share))};
    due.share = share;
    due.joining = order_.choice.between == cut::Between::Motion ? Joining::Motion : Joining::Mean;
    return due;
  }
  if (!before && !after) none_readable();
  const bool nearer = before && after && *after - at < at - *before;
  const size_t shown = nearer || !before ? *after : *before;
  due.made = shown != at || (slower && place > whole);
  due.layers.push_back(layer_of(shown, at, film_frame, 1));
  due.plan = due.layers.front().plan;
  return due;
}

/// Every frame up to the film's next one goes into the trails, one at a time; the last of them is the film's.
void FilmLine::brighten(std::vector<DueFrame>& into, size_t most) {
  while (into.size() < most && !done()) {
    const auto at = static_cast<size_t>(timeline_.place(next_));
    if (next_bright_ > at) next_bright_ = at;  // slower than they were shot: once more
    if (next_bright_ >= settled() || !(closed_ || readable_after(next_bright_))) return;
    const bool film_frame = next_bright_ == at;
    DueFrame due;
    due.joining = Joining::Brightest;
    due.shown = film_frame;
    due.plan = plan_at(next_, static_cast<double>(timeline_.sequence()[next_bright_]));
    const auto before = readable_before(next_bright_), after = readable_after(next_bright_);
    if (!before && !after) none_readable();
    const size_t shown = before ? *before : *after;
    due.made = shown != next_bright_;
    due.layers.push_back(layer_of(shown, next_bright_, next_, 1));
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
    out.push_back(make(next_));
    made_ += out.back().made ? 1 : 0;
    ++next_;
    drop();
  }
  return out;
}

/// Frames that nothing needs any more go; the last readable one before those that are needed stays.
void FilmLine::drop() {
  size_t needed = done() ? added_ : span_of(next_).first;
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

double FilmLine::flicker_before() const {
  return leveller_ ? level::flicker(as_shot_) : 0;
}

}  // namespace askcount::render
