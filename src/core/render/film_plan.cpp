// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/film_plan.h"

#include <algorithm>
#include <cmath>

namespace askcount::render {
namespace {

constexpr double kNoTurn = 0.033;  // film pixels from side to side
constexpr double kMargin = 0.004;  // of the frame read around a view, for what its edge pixels reach for

image::RectF within_frame(const image::RectF& p) {
  const double x = std::clamp(p.x - kMargin, 0.0, 1.0), y = std::clamp(p.y - kMargin, 0.0, 1.0);
  return {x, y, std::clamp(p.x + p.width + kMargin, 0.0, 1.0) - x,
          std::clamp(p.y + p.height + kMargin, 0.0, 1.0) - y};
}

}  // namespace

image::Size size_of_take(const std::vector<media::Frame>& frames) {
  for (const media::Frame& f : frames)
    if (f.readable() && f.info().size.width > 0) return image::upright(f.info().size, f.info().orientation);
  return {3, 2};
}

Timeline timeline_of(const FilmOrder& order, size_t take_frames) {
  return {order.choice, static_cast<long long>(take_frames), order.fps, order.gaps};
}

std::vector<size_t> frames_shown(const FilmOrder& order, size_t take_frames) {
  std::vector<size_t> shown = timeline_of(order, take_frames).sequence();
  std::sort(shown.begin(), shown.end());
  shown.erase(std::unique(shown.begin(), shown.end()), shown.end());
  return shown;
}

motion::Steadied known_steadied(const FilmOrder& order, size_t take_frames, image::Size frame) {
  if (order.steady == motion::Mode::None || order.path.empty()) return {};
  const std::vector<size_t> shown = frames_shown(order, take_frames);
  std::vector<motion::Pose> of_shown;
  for (const size_t n : shown) of_shown.push_back(order.path[n]);
  motion::Steadied s = motion::steadied(of_shown, order.steady, frame.shape(),
                                        level::Smoothing::frames_of(1, order.fps.value()));
  std::vector<motion::Pose> by_frame(take_frames);
  for (size_t n = 0; n < shown.size(); ++n) by_frame[shown[n]] = s.corrections[n];
  s.corrections = std::move(by_frame);
  return s;
}

image::RectF joined_parts(const image::RectF& a, const image::RectF& b) {
  const double right = std::max(a.x + a.width, b.x + b.width),
               below = std::max(a.y + a.height, b.y + b.height);
  const double x = std::min(a.x, b.x), y = std::min(a.y, b.y);
  return {x, y, right - x, below - y};
}

FilmPlan::FilmPlan(const FilmOrder& order, size_t take_frames, image::Size frame, motion::Steadied steadied)
    : order_(order),
      timeline_(timeline_of(order, take_frames)),
      frame_(frame),
      steadied_(std::move(steadied)),
      mapped_(!order.views.empty() || !steadied_.corrections.empty() || order.crisp ||
              order.corrected_part.has_value()),
      measured_(film_part(frame, order.size)) {
  all_ = timeline_.frames();
  if (order.excerpt) {
    first_ = std::min(order.excerpt->first, all_ - 1);
    const size_t reach = static_cast<size_t>(std::max(1LL, order.choice.trail));
    timeline_.keep(first_, std::min(order.excerpt->count, all_ - first_), reach);
  }
  if (!mapped_) return;
  render::check_views(order.views, frame, order.size);
  work_out_needs();
}

/// What each place of the sequence is seen through, by every film frame that uses it.
void FilmPlan::work_out_needs() {
  needs_.resize(timeline_.sequence().size(), {{0, 0, 0, 0}, 0});
  std::optional<image::RectF> all;
  for (size_t n = 0; n < timeline_.frames(); ++n) {
    const render::View v = view(n);
    const double density = 1 / (render::density(v, frame_, order_.size) * (1 - steadied_.edge));
    const image::RectF plain = render::part_of(v, frame_, order_.size);
    all = all ? joined_parts(*all, plain) : plain;
    const Span span = span_of(n);
    const size_t to = std::min(span.last + 1, needs_.size() - 1);
    for (size_t place = span.first; place <= to; ++place) {
      Need& need = needs_[place];
      const image::RectF part =
          steadied_.corrections.empty() ? plain : bounds_of(n, timeline_.sequence()[place]);
      need.part = need.density > 0 ? joined_parts(need.part, part) : part;
      need.density = std::max(need.density, density);
    }
  }
  // What is known already says what it is over; what is worked out on the way is over what is seen.
  if (levels_on_the_way(order_)) measured_ = within_frame(*all);
  if (order_.corrected_part) measured_ = *order_.corrected_part;
  for (Need& need : needs_) {
    if (need.density <= 0) need.part = within_frame(*all), need.density = 0.01;
    need.part = within_frame(need.part);
    if (levels_on_the_way(order_)) need.part = joined_parts(need.part, measured_);
  }
}

image::RectF FilmPlan::bounds_of(size_t film_frame, size_t take_frame) const {
  const image::Affine map = map_of(film_frame, take_frame, frame_);
  double left = 1e9, right = -1e9, above = 1e9, below = -1e9;
  for (const double cx : {0, order_.size.width})
    for (const double cy : {0, order_.size.height}) {
      const auto [x, y] = map(cx, cy);
      left = std::min(left, x), right = std::max(right, x);
      above = std::min(above, y), below = std::max(below, y);
    }
  return {left / frame_.width, above / frame_.height, (right - left) / frame_.width,
          (below - above) / frame_.height};
}

render::View FilmPlan::view(size_t film_frame) const {
  return render::view_at(order_.views, static_cast<double>(first_ + film_frame) / order_.fps.value(), frame_,
                         order_.size);
}

image::Affine FilmPlan::map_of(size_t film_frame, size_t take_frame, image::Size full) const {
  image::Affine map = render::film_to_frame(view(film_frame), full, order_.size);
  if (steadied_.corrections.empty()) return map;
  const double k = 1 - steadied_.edge, x = full.width / 2.0, y = full.height / 2.0;
  const image::Affine narrower = image::Affine{k, 0, x * (1 - k), 0, k, y * (1 - k)};
  map = motion::to_frame(steadied_.corrections[take_frame], full).after(narrower.after(map));
  // A turn that moves nothing by a thirtieth of the film's pixels anywhere is none: rows stay rows.
  if (std::hypot(map.xy, map.yx) * order_.size.width < kNoTurn * std::hypot(map.xx, map.yy)) {
    const auto [cx, cy] = map(order_.size.width / 2.0, order_.size.height / 2.0);
    map.x0 = cx - map.xx * order_.size.width / 2.0;
    map.y0 = cy - map.yy * order_.size.height / 2.0;
    map.xy = map.yx = 0;
  }
  return map;
}

Need FilmPlan::need_of(size_t place, image::Size full) const {
  if (mapped_) return needs_[place];
  const image::RectF part = film_part(full, order_.size);
  return {part, order_.size.width / std::max(1.0, part.width * full.width)};
}

FilmPlan::Span FilmPlan::span_of(size_t film_frame) const {
  const double place = timeline_.place(film_frame);
  const auto at = static_cast<size_t>(place);
  const bool beside = place > static_cast<double>(at);
  if (order_.choice.bright != 0) return {at, at};
  if (order_.choice.trail > 1) {
    const auto length = static_cast<size_t>(order_.choice.trail);
    return {at + 1 > length ? at + 1 - length : 0, beside ? at + 1 : at};
  }
  if (order_.choice.between == render::Between::Repeat) return {at, at};
  return {at, beside ? at + 1 : at};
}

Recipe FilmPlan::recipe_of_place(size_t place, const Showable& showable) {
  Recipe recipe;
  const auto before = showable.before(place);
  const auto shown = before ? before : showable.after(place);
  if (!shown) return recipe;
  recipe.made = *shown != place;
  recipe.parts = {{*shown, place, 1}};
  return recipe;
}

Recipe FilmPlan::recipe_of(size_t film_frame, const Showable& showable) const {
  const double place = timeline_.place(film_frame);
  const auto at = static_cast<size_t>(place);
  Recipe recipe;
  if (order_.choice.trail > 1) {
    const double to = place + 1, from = to - static_cast<double>(order_.choice.trail);
    const Span span = span_of(film_frame);
    float sum = 0;
    for (size_t n = span.first; n <= span.last; ++n) {
      const double share = std::min(to, static_cast<double>(n) + 1) - std::max(from, static_cast<double>(n));
      if (share <= 0 || !showable.at(n)) continue;
      recipe.parts.push_back({n, n, static_cast<float>(share)});
      sum += recipe.parts.back().weight;
    }
    for (Recipe::Part& p : recipe.parts) p.weight /= sum;
    recipe.joining = recipe.parts.size() > 1 ? Joining::Mean : Joining::One;
    if (!recipe.parts.empty()) return recipe;
  }
  // The nearest that can be shown, before and after.
  const bool slower = order_.choice.between != render::Between::Repeat;
  const auto whole = static_cast<double>(at);
  const double wanted = slower ? place : whole;
  const auto before = showable.before(at), after = showable.after(wanted > whole ? at + 1 : at);
  if (before && after && *before != *after && slower) {
    recipe.made = true;
    recipe.share = (wanted - static_cast<double>(*before)) / static_cast<double>(*after - *before);
    recipe.parts = {{*before, *before, static_cast<float>(1 - recipe.share)},
                    {*after, *after, static_cast<float>(recipe.share)}};
    recipe.joining = order_.choice.between == render::Between::Motion ? Joining::Motion : Joining::Mean;
    return recipe;
  }
  if (!before && !after) return recipe;
  const bool nearer = before && after && *after - at < at - *before;
  const size_t shown = nearer || !before ? *after : *before;
  recipe.made = shown != at || (slower && place > whole) || timeline_.missing(film_frame);
  recipe.parts = {{shown, at, 1}};
  return recipe;
}

FramePlan FilmPlan::plan_at(size_t film_frame, double take_place) const {
  FramePlan p = plan_of(order_, take_place, frame_, {});
  if (mapped_) p.part = measured_;
  p.kernel = order_.crisp ? image::Kernel::Crisp : image::Kernel::Calm;
  const auto n = static_cast<double>(first_ + film_frame);
  const auto last = static_cast<double>(all_ - 1);
  const double in = order_.fade_in_s * order_.fps.value(), out = order_.fade_out_s * order_.fps.value();
  double fade = 1;
  if (in > 0) fade = std::min(fade, n / in);
  if (out > 0) fade = std::min(fade, (last - n) / out);
  p.fade = static_cast<float>(std::clamp(fade, 0.0, 1.0));
  return p;
}

FramePlan FilmPlan::layer_plan(size_t film_frame, double take_place, size_t take_frame, image::Size full,
                               const std::optional<level::Correction>& worked_out) const {
  FramePlan p = plan_at(film_frame, take_place);
  p.frame = take_frame;
  if (worked_out)
    p.correction = *worked_out;
  else if (!order_.corrections.empty())
    p.correction = order_.corrections[take_frame];
  if (!mapped_) {
    p.part = film_part(full, order_.size);
    return p;
  }
  p.map = map_of(film_frame, take_frame, full);
  p.frame_size = full;
  return p;
}

}  // namespace askcount::render
