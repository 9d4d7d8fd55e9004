// SPDX-License-Identifier: GPL-3.0-or-later
#include "render/film_preview.h"

#include <algorithm>
#include <cmath>

#include "media/seen.h"
#include "render/drawing.h"
#include "render/joining.h"
#include "render/write_in.h"

namespace askcount::render {
namespace {

using Picture = std::shared_ptr<const render::Decoded>;

int even(double length) {
  return std::max(2, 2 * static_cast<int>(std::lround(length / 2)));
}

/// Frames that cannot be read or are set aside are stood in for, whether they are in memory or not.
class ShownPlaces : public render::Showable {
 public:
  ShownPlaces(const std::vector<std::size_t>& sequence, const media::Frames& frames)
      : sequence_(sequence), frames_(frames) {}
  bool at(std::size_t place) const override { return (*frames_)[sequence_[place]].shown(); }
  std::optional<std::size_t> before(std::size_t place) const override {
    for (std::size_t n = place + 1; n-- > 0;)
      if (at(n)) return n;
    return {};
  }
  std::optional<std::size_t> after(std::size_t place) const override {
    for (std::size_t n = place; n < sequence_.size(); ++n)
      if (at(n)) return n;
    return {};
  }

 private:
  const std::vector<std::size_t>& sequence_;
  const media::Frames& frames_;
};

render::FilmOrder smaller(render::FilmOrder order, image::Size fit) {
  order.size = preview_size(order.size, fit);
  order.coding.bits = 8;
  order.coding.chroma = media::Chroma::Half420;
  if (order.corrections.empty()) order.levelled = false;
  return order;
}

}  // namespace

image::Size preview_size(image::Size film, image::Size fit) {
  const double scale = std::min(
      {1.0, static_cast<double>(fit.width) / film.width, static_cast<double>(fit.height) / film.height});
  return {even(film.width * scale), even(film.height * scale)};
}

struct FilmPreview::Parts {
  Parts(const render::FilmOrder& o, media::Frames f, image::Size frame, image::Size fit, motion::Steadied s)
      : order(smaller(o, fit)),
        frames(std::move(f)),
        plan(order, frames->size(), frame, std::move(s)),
        places(plan.timeline().sequence(), frames),
        resamplings(order.size),
        onto(order.size),
        density(static_cast<double>(order.size.width) / o.size.width) {
    if (!order.written.none()) write_in.emplace(order.written, order.size, frames);
  }
  render::FilmOrder order;
  media::Frames frames;
  render::FilmPlan plan;
  ShownPlaces places;
  render::Resamplings resamplings;
  media::FrameBuffer onto;
  double density;
  std::optional<render::WriteIn> write_in;
  std::optional<render::BrightTrails> trails;
  std::size_t laid = 0;  // places that are in the trails, from the front
  Known trails_known = Known::Whole;

  /// With the places passed over, where they leave trails.
  render::FilmPlan::Span span_of(std::size_t film_frame) const {
    render::FilmPlan::Span span = plan.span_of(film_frame);
    if (order.choice.bright != 0 && film_frame > 0)
      span.first = std::min(span.first, static_cast<std::size_t>(plan.timeline().place(film_frame - 1)) + 1);
    return span;
  }

  struct Found {
    Picture frame;
    Known known = Known::Nothing;
  };
  /// What is there for a place; a neighbour's where it is not.
  Found find(std::size_t place, const SmallFrames& small, Known most) const {
    const std::vector<std::size_t>& sequence = plan.timeline().sequence();
    for (std::size_t off = 0; off < sequence.size(); ++off) {
      for (const bool back : {true, false}) {
        if (back ? place < off : off == 0 || place + off >= sequence.size()) continue;
        const std::size_t frame = sequence[back ? place - off : place + off];
        Picture there = small.at(frame, most);
        if (!there) continue;
        // One that cannot be read at all is stood in for in the film too.
        const Known own = small.known(sequence[place]);
        const Known known = off > 0 && own != Known::Whole ? Known::Nothing : std::min(most, own);
        return {std::move(there), known};
      }
    }
    return {};
  }

  render::DueFrame due_of(const render::Recipe& recipe, std::size_t film_frame, const SmallFrames& small,
                          Known most, Known& known) const {
    render::DueFrame due;
    due.joining = recipe.joining;
    due.share = recipe.share;
    due.plan = plan.plan_at(film_frame, plan.timeline().take_place(film_frame));
    due.plan.density = density;
    for (const render::Recipe::Part& part : recipe.parts) {
      Found found = find(part.place, small, most);
      known = std::min(known, found.known);
      if (!found.frame) return {};
      render::Layer layer;
      layer.plan =
          plan.layer_plan(film_frame, static_cast<double>(plan.timeline().sequence()[part.for_place]),
                          found.frame->index, found.frame->full);
      layer.plan.density = density;
      layer.from = std::move(found.frame);
      layer.weight = part.weight;
      due.layers.push_back(std::move(layer));
    }
    return due;
  }

  void write(const render::FramePlan& seen) {
    if (write_in) write_in->onto(onto.film(), seen.frame, render::width_seen(seen));
  }

  /// The first place whose light is still seen at another.
  std::size_t trails_from(std::size_t at) const {
    const long long length = order.choice.bright;
    return length > 0 && at > static_cast<std::size_t>(length) ? at - static_cast<std::size_t>(length) : 0;
  }

  Drawn draw_trails(std::size_t film_frame, const SmallFrames& small, Known most,
                    const std::stop_token& stop) {
    const auto at = static_cast<std::size_t>(plan.timeline().place(film_frame));
    if (!trails || laid == 0 || at + 1 < laid) {
      trails.emplace(order.choice.bright);
      laid = trails_from(at);
      trails_known = Known::Whole;
    }
    if (laid > at) laid = at;  // once more
    for (; laid <= at; ++laid) {
      if (stop.stop_requested()) return {};
      const auto due =
          due_of(render::FilmPlan::recipe_of_place(laid, places), film_frame, small, most, trails_known);
      if (due.layers.empty()) continue;
      const auto light = render::joined(due, resamplings);
      trails->pass(*light);
      if (laid < at) continue;
      render::code(*light, due.plan, onto.film());
      write(due.layers.front().plan);
      ++laid;
      return {media::seen(onto.film()), trails_known};
    }
    return {};
  }
};

FilmPreview::FilmPreview(const render::FilmOrder& order, media::Frames frames, image::Size frame,
                         image::Size fit, motion::Steadied steadied)
    : parts_(std::make_unique<Parts>(order, std::move(frames), frame, fit, std::move(steadied))) {}

FilmPreview::~FilmPreview() = default;

image::Size FilmPreview::size() const {
  return parts_->order.size;
}

const render::Timeline& FilmPreview::timeline() const {
  return parts_->plan.timeline();
}

FrameRate FilmPreview::fps() const {
  return parts_->order.fps;
}

std::vector<std::size_t> FilmPreview::wanted_from(std::size_t film_frame) const {
  const std::vector<std::size_t>& sequence = timeline().sequence();
  std::vector<bool> told(parts_->frames->size(), false);
  std::vector<std::size_t> out;
  for (std::size_t k = 0; k < frames(); ++k) {
    const render::FilmPlan::Span span = parts_->span_of((film_frame + k) % frames());
    for (std::size_t place = span.first; place <= std::min(span.last, sequence.size() - 1); ++place) {
      const std::size_t frame = sequence[place];
      if (told[frame]) continue;
      told[frame] = true;
      out.push_back(frame);
    }
  }
  return out;
}

std::vector<std::size_t> FilmPreview::needed_for(std::size_t film_frame) const {
  const Parts& p = *parts_;
  std::vector<std::size_t> out;
  const auto add = [&](const render::Recipe& recipe) {
    for (const render::Recipe::Part& part : recipe.parts) {
      const std::size_t frame = timeline().sequence()[part.place];
      if (std::find(out.begin(), out.end(), frame) == out.end()) out.push_back(frame);
    }
  };
  if (p.order.choice.bright == 0) {
    add(p.plan.recipe_of(film_frame, p.places));
    return out;
  }
  const auto at = static_cast<std::size_t>(timeline().place(film_frame));
  for (std::size_t place = p.trails_from(at); place <= at; ++place)
    add(render::FilmPlan::recipe_of_place(place, p.places));
  return out;
}

Known FilmPreview::known(std::size_t film_frame, const SmallFrames& small) const {
  Known least = Known::Whole;
  const std::vector<std::size_t>& sequence = timeline().sequence();
  const render::FilmPlan::Span span = parts_->span_of(film_frame);
  for (std::size_t place = span.first; place <= std::min(span.last, sequence.size() - 1); ++place)
    least = std::min(least, small.known(sequence[place]));
  return least;
}

bool FilmPreview::keeps_up_whole(std::size_t film_frame, const SmallFrames& small) const {
  // Frames that are missing must come as fast as the film reaches them.
  const double rate = small.filled().rate / fps().value();  // frames of the take that come in a frame's time
  double missing = 0;
  for (std::size_t n = film_frame; n < frames(); ++n) {
    if (known(n, small) == Known::Whole) continue;
    missing += 1;
    if (missing > rate * static_cast<double>(n - film_frame)) return false;
  }
  return true;
}

FilmPreview::Drawn FilmPreview::draw(std::size_t film_frame, const SmallFrames& small, Known most,
                                     const std::stop_token& stop) {
  Parts& p = *parts_;
  if (p.order.choice.bright != 0) return p.draw_trails(film_frame, small, most, stop);
  Known known = Known::Whole;
  const render::DueFrame due =
      p.due_of(p.plan.recipe_of(film_frame, p.places), film_frame, small, most, known);
  if (due.layers.empty()) return {};
  if (due.joining == render::Joining::One)
    render::draw_one(due, p.resamplings, p.onto.film());
  else
    render::code(*render::joined(due, p.resamplings), due.plan, p.onto.film());
  p.write(due.layers.front().plan);
  return {media::seen(p.onto.film()), known};
}

}  // namespace askcount::render
