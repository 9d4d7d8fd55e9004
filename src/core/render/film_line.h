// One film on its way: which of the frames that come it waits for, and what it makes of them.
#pragma once

#include <deque>
#include <memory>
#include <optional>
#include <vector>

#include "level/levelling.h"
#include "render/joining.h"
#include "render/plan.h"

namespace askcount::render {

/// Whether a film's levelling is worked out while it is rendered.
inline bool levels_on_the_way(const FilmOrder& order) {
  return order.levelled && order.corrections.empty();
}

/// What a film needs of a frame, or of all of them.
struct Need {
  image::RectF part;   ///< of the upright frame, as shares
  double density = 0;  ///< film pixels for one of the frame's
};

/// The smallest part that holds both.
image::RectF joined_parts(const image::RectF& a, const image::RectF& b);

/// Takes the frames of its timeline in order, levels them, and gives the film's frames once all their layers
/// are there. Used from one thread at a time; what is const may be asked from any.
class FilmLine {
 public:
  /// `frame` is the size of the take's upright frames. Throws as cut::Timeline and cut::check_views().
  FilmLine(const FilmOrder& order, const source::Frames& frames, image::Size frame,
           steady::Steadied steadied = {});

  const cut::Timeline& timeline() const { return timeline_; }
  bool levels() const { return leveller_.has_value(); }
  /// The part of the frame whose light is levelled, as shares.
  image::RectF measured_part(image::Size full) const {
    return mapped_ ? measured_ : film_part(full, order_.size);
  }
  /// What the film needs of the frame at a place of its sequence, whose upright size is `full`.
  Need need_of(size_t place, image::Size full) const;
  /// How many frames it holds, about.
  size_t holds() const;

  /// The next frame of its sequence; `luminance` is which of the frame's is this film's.
  void add(std::shared_ptr<const Decoded> frame, size_t luminance);
  /// No more come.
  void close() { closed_ = true; }
  /// The frames of the film that are due, up to so many.
  std::vector<DueFrame> take(size_t most);
  /// Whether take() would give any.
  bool ready() const;
  bool done() const { return next_ >= timeline_.frames(); }

  /// Flicker of what was decoded, in stops; 0 where the levelling was known before.
  double flicker_before() const;
  /// Film frames made from neighbours so far.
  size_t made() const { return made_; }

 private:
  struct Slot {
    std::shared_ptr<const Decoded> frame;
    std::optional<level::Levelled> levelled;
    std::optional<level::Correction> own;
  };
  struct Span {
    size_t first = 0, last = 0;
  };
  Span span_of(size_t film_frame) const;
  size_t settled() const;
  [[noreturn]] void none_readable() const;
  bool readable(size_t place) const { return slots_[place - base_].frame->shown != nullptr; }
  std::optional<size_t> readable_before(size_t place) const;
  std::optional<size_t> readable_after(size_t place) const;
  bool is_due(size_t film_frame) const;
  void settle();
  void drop();
  void brighten(std::vector<DueFrame>& into, size_t most);
  DueFrame make(size_t film_frame);
  Layer layer_of(size_t place, size_t for_place, size_t film_frame, float weight);
  FramePlan plan_at(size_t film_frame, double take_frame) const;
  image::Affine map_of(size_t film_frame, size_t take_frame, image::Size full) const;
  cut::View view(size_t film_frame) const;

  const FilmOrder& order_;
  cut::Timeline timeline_;
  image::Size frame_;
  steady::Steadied steadied_;
  bool mapped_;
  image::RectF measured_;
  std::vector<Need> needs_;  // of each place, where they differ

  std::optional<level::Leveller> leveller_;
  std::vector<double> as_shot_;
  size_t lookahead_ = 0, luminance_ = 0;
  std::deque<Slot> slots_;
  size_t base_ = 0, added_ = 0, levelled_ = 0;
  size_t next_ = 0, next_bright_ = 0, made_ = 0;
  bool closed_ = false;
};

}  // namespace askcount::render
