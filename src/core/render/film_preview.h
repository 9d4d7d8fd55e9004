// SPDX-License-Identifier: GPL-3.0-or-later
// A film as it will be, drawn small from what is in memory: nothing is rendered.
#pragma once

#include <memory>
#include <optional>
#include <stop_token>
#include <vector>

#include "render/film_plan.h"
#include "render/small_frames.h"

namespace askcount::render {

/// Draws any frame of an ordered film by the same recipes, plans and kernels as the render, at a smaller
/// size. For one thread at a time.
class FilmPreview {
 public:
  /// The film is drawn no larger than `fit` (the order's own size where that is smaller), `frame` is the size
  /// of the take's upright frames. Gains are the order's `corrections`; where there are none frames are as
  /// they were shot. Throws as render::FilmPlan.
  FilmPreview(const render::FilmOrder& order, media::Frames frames, image::Size frame, image::Size fit,
              motion::Steadied steadied = {});
  ~FilmPreview();
  FilmPreview(const FilmPreview&) = delete;
  FilmPreview& operator=(const FilmPreview&) = delete;

  image::Size size() const;
  const render::Timeline& timeline() const;
  std::size_t frames() const { return timeline().frames(); }
  FrameRate fps() const;

  /// The take's frames in the order in which they are needed when the film is played from a frame on, once
  /// around; each once.
  std::vector<std::size_t> wanted_from(std::size_t film_frame) const;

  /// The take's frames that one frame of the film is made of, with those that stand in for what cannot be
  /// shown.
  std::vector<std::size_t> needed_for(std::size_t film_frame) const;

  /// How much is known of what a film frame is made of: the least of its parts.
  Known known(std::size_t film_frame, const SmallFrames& small) const;

  /// Whether the film can be played from a frame on without a frame that is not there whole by the time it is
  /// due, as fast as frames come (Filled::rate).
  bool keeps_up_whole(std::size_t film_frame, const SmallFrames& small) const;

  struct Drawn {
    image::Coded8 picture;         ///< empty where nothing is there to draw from, or once stopped
    Known known = Known::Nothing;  ///< of the worst of its parts; Nothing where a neighbour stood in for one
  };
  /// Draws a film frame from what is there, no better than `most` where a look at it is there too. Trails
  /// that stay bright are laid from their beginning when frames are not asked for in order, which takes as
  /// many frames as they are long.
  Drawn draw(std::size_t film_frame, const SmallFrames& small, Known most = Known::Whole,
             const std::stop_token& stop = {});

 private:
  struct Parts;
  std::unique_ptr<Parts> parts_;
};

/// The largest size of a film's shape within `fit`, of even sides, no larger than the film.
image::Size preview_size(image::Size film, image::Size fit);

}  // namespace askcount::render
