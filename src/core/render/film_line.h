// SPDX-License-Identifier: GPL-3.0-or-later
// One film on its way: which of the frames that come it waits for, and what it makes of them.
#pragma once

#include <deque>
#include <memory>
#include <optional>
#include <vector>

#include "level/levelling.h"
#include "render/film_plan.h"
#include "render/joining.h"

namespace askcount::render {

/// Takes the frames of its timeline in order, levels them, and gives the film's frames once all their layers
/// are there. Used from one thread at a time; what is const may be asked from any.
class FilmLine {
 public:
  /// `frame` is the size of the take's upright frames. Throws as render::Timeline and render::check_views().
  FilmLine(const FilmOrder& order, const media::Frames& frames, image::Size frame,
           motion::Steadied steadied = {});

  const FilmPlan& plan() const { return plan_; }
  bool levels() const { return leveller_.has_value(); }
  /// How many frames it holds, about.
  size_t holds() const;

  /// The next frame of its sequence; `luminance` is which of the frame's is this film's.
  void add(std::shared_ptr<const Decoded> frame, size_t luminance);
  /// No more come.
  void close() { closed_ = true; }
  /// The frames of the film that are due, up to this many.
  std::vector<DueFrame> take(size_t most);
  /// Whether take() would give any.
  bool ready() const;
  bool done() const { return next_ >= plan_.timeline().frames(); }

  /// Flicker of what was decoded, in stops; nothing where the levelling was known before.
  std::optional<double> flicker_before() const;
  /// Frames of the take that the levelling set aside, as far as they were levelled on the way.
  const std::vector<size_t>& set_aside() const { return set_aside_; }
  /// Film frames made from neighbours so far.
  size_t made() const { return made_; }

 private:
  struct Slot {
    std::shared_ptr<const Decoded> frame;
    std::optional<level::Levelled> levelled;
    std::optional<level::Correction> own;
  };
  size_t settled() const;
  [[noreturn]] void none_readable() const;
  bool readable(size_t place) const { return slots_[place - base_].frame->shown != nullptr; }
  std::optional<size_t> readable_before(size_t place) const;
  std::optional<size_t> readable_after(size_t place) const;
  bool is_due(size_t film_frame) const;
  void settle();
  void drop();
  void brighten(std::vector<DueFrame>& into, size_t most);
  class Readable;
  DueFrame due_of(const Recipe& recipe, size_t film_frame, double take_place);
  std::optional<level::Correction> worked_out(Slot& slot, size_t for_place) const;
  Layer layer_of(size_t place, size_t for_place, size_t film_frame, float weight);

  const FilmOrder& order_;
  FilmPlan plan_;
  std::optional<level::Leveller> leveller_;
  std::vector<double> as_shot_;
  std::vector<size_t> set_aside_;
  size_t lookahead_ = 0, luminance_ = 0;
  std::deque<Slot> slots_;
  size_t base_ = 0, added_ = 0, levelled_ = 0;
  size_t next_ = 0, next_bright_ = 0, made_ = 0;
  bool closed_ = false;
};

}  // namespace askcount::render
