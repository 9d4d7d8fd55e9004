// SPDX-License-Identifier: GPL-3.0-or-later
// How one film shows its take: what each of its frames is made of, through which part, in which look.
#pragma once

#include <optional>
#include <vector>

#include "media/frame.h"
#include "motion/steadying.h"
#include "render/plan.h"
#include "render/timeline.h"

namespace askcount::render {

/// Whether a film's levelling is worked out while it is rendered.
inline bool levels_on_the_way(const FilmOrder& order) {
  return order.levelled && order.corrections.empty();
}

/// How an ordered film goes through a take of this many frames. Throws as Timeline.
Timeline timeline_of(const FilmOrder& order, size_t take_frames);

/// The size of a take's upright frames: of the first that says one; 3 × 2 where none does.
image::Size size_of_take(const std::vector<media::Frame>& frames);

/// The frames of the take (from 0) that a film goes through, each once, in the take's order. Throws as
/// render::Timeline.
std::vector<size_t> frames_shown(const FilmOrder& order, size_t take_frames);

/// How a film is steadied by the path its order knows; nothing where it is not steadied, or the path is not
/// known. `frame` is the size of the take's upright frames.
motion::Steadied known_steadied(const FilmOrder& order, size_t take_frames, image::Size frame);

/// What a film needs of a frame, or of all of them.
struct Need {
  image::RectF part;   ///< of the upright frame, as shares
  double density = 0;  ///< film pixels for one of the frame's
};

/// The smallest part that holds both.
image::RectF joined_parts(const image::RectF& a, const image::RectF& b);

/// How the layers of a film frame become one picture.
enum class Joining {
  One,       ///< there is only one
  Mean,      ///< their mean by weight, in linear light
  Motion,    ///< two, and what moved between them on its way
  Brightest  ///< the brightest of them all and of what the film has shown before
};

/// What a film frame is made of.
struct Recipe {
  struct Part {
    size_t place = 0;      ///< of the frame that is shown, in the film's sequence
    size_t for_place = 0;  ///< of the one in whose stead it is, with its look and light
    float weight = 1;
  };
  Joining joining = Joining::One;
  double share = 0;  ///< of the way from the first part to the second, for Motion
  std::vector<Part> parts;
  bool made = false;  ///< it was not shot: a place between frames, or one that cannot be shown
};

/// Tells of a place of the sequence whether it can be shown, and which is the nearest that can, itself among
/// them; nothing where there is none.
class Showable {
 public:
  virtual ~Showable() = default;
  virtual bool at(size_t place) const = 0;
  virtual std::optional<size_t> before(size_t place) const = 0;
  virtual std::optional<size_t> after(size_t place) const = 0;
};

/// Film time, views, steadying and looks of an order, worked out once. A place is a frame's in the film's
/// sequence (render::Timeline), a take's frame counts from 0. Const and safe from several threads at once;
/// the order must outlive it.
class FilmPlan {
 public:
  /// `frame` is the size of the take's upright frames. Throws as render::Timeline and render::check_views().
  FilmPlan(const FilmOrder& order, size_t take_frames, image::Size frame, motion::Steadied steadied = {});

  const FilmOrder& order() const { return order_; }
  const render::Timeline& timeline() const { return timeline_; }
  const motion::Steadied& steadied() const { return steadied_; }

  struct Span {
    size_t first = 0, last = 0;
  };
  /// The places a film frame is made of, were all of them readable.
  Span span_of(size_t film_frame) const;

  /// What a film frame is made of where not all can be shown; without parts where nothing can. Trails that
  /// stay bright are made of each frame by itself.
  Recipe recipe_of(size_t film_frame, const Showable& showable) const;
  /// The same of a place that only leaves its trail.
  static Recipe recipe_of_place(size_t place, const Showable& showable);

  /// What the film needs of the frame at a place, whose upright size is `full`.
  Need need_of(size_t place, image::Size full) const;
  /// The part of a frame whose light is levelled, as shares.
  image::RectF measured_part(image::Size full) const {
    return mapped_ ? measured_ : film_part(full, order_.size);
  }

  /// How the light of a film frame is coded: its look at a place of the take (from 0, between frames where
  /// it is no whole number), and its fade.
  FramePlan plan_at(size_t film_frame, double take_place) const;
  /// How a frame of the take, of this upright size, is seen in a film frame; `take_place` has its look. Its
  /// light is corrected as the order knows it, or as was worked out on the way.
  FramePlan layer_plan(size_t film_frame, double take_place, size_t take_frame, image::Size full,
                       const std::optional<level::Correction>& worked_out = {}) const;
  /// The view at a film frame, before steadying.
  render::View view(size_t film_frame) const;

 private:
  image::Affine map_of(size_t film_frame, size_t take_frame, image::Size full) const;
  /// The part of the frame that a film frame shows of a take's, as shares; it may reach beyond the frame.
  image::RectF bounds_of(size_t film_frame, size_t take_frame) const;
  void work_out_needs();

  const FilmOrder& order_;
  render::Timeline timeline_;
  image::Size frame_;
  motion::Steadied steadied_;
  bool mapped_;
  size_t first_ = 0, all_ = 0;  // where an excerpt begins, and how many frames all of the film has
  image::RectF measured_;
  std::vector<Need> needs_;  // of each place, where they differ
};

}  // namespace askcount::render
