// SPDX-License-Identifier: GPL-3.0-or-later
// What every film frame is made from.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/output.h"
#include "image/affine.h"
#include "image/pixels.h"
#include "image/sampling.h"
#include "level/correction.h"
#include "level/levelling.h"
#include "look/anchors.h"
#include "media/encoder.h"
#include "motion/camera_path.h"
#include "render/film.h"

namespace askcount::render {

/// A film to be made from a take's frames.
struct FilmOrder : Film {
  std::filesystem::path output;
  Guard guard;  ///< what is not to be written over; the frames never are
  FrameRate fps;
  level::Smoothing smoothing;
  bool levelled = true;  ///< false leaves every frame as it was shot
  /// One a frame, where the levelling is known already; otherwise it is worked out on the way.
  std::vector<level::Correction> corrections;
  /// The part of the frame that those were measured over, as shares; nothing for the largest of the film's
  /// shape.
  std::optional<image::RectF> corrected_part;
  look::Looks looks;          ///< by the take's frames
  long long first_frame = 0;  ///< the take's frame that the first of those given is

  std::vector<Gap> gaps;  ///< where frames are missing
  /// Only this many of the film's frames from one on: a sample of it.
  struct Excerpt {
    size_t first = 0, count = 0;
  };
  std::optional<Excerpt> excerpt;
  /// How the camera moved, of all frames given, where that is known already; otherwise it is measured first.
  std::vector<motion::Pose> path;
  media::Extras extras;  ///< sound, title, chapters; its length is worked out
};

/// One film frame: which frame of the take, which part of it, and what is done to its light and colours.
struct FramePlan {
  size_t frame = 0;
  level::Correction correction;
  image::RectF part;  ///< shares of the upright frame
  image::Size film;   ///< pixels it has in the film; {} where there is none
  look::Look look;
  double as_shot_k = look::kDaylight;           ///< the warmth it has without a look
  std::shared_ptr<const look::Cube> cube = {};  ///< what comes last; null for nothing
  /// Takes places of the film (pixels) to places of the upright frame (pixels); nothing where the film shows
  /// just `part`, upright.
  std::optional<image::Affine> map = {};
  image::Size frame_size = {};  ///< of the upright frame, where there is a map
  image::Kernel kernel = image::Kernel::Calm;
  float fade = 1;  ///< what the codes are multiplied by in the end
  double density =
      1;  ///< film pixels that a pixel of what is drawn is wide; below 1 for a smaller look at it
  bool operator==(const FramePlan&) const = default;
};

/// How much of the frame's width a film frame shows, as a share.
inline double width_seen(const FramePlan& plan) {
  return plan.map
             ? std::hypot(plan.map->xx, plan.map->yx) * plan.film.width / std::max(1, plan.frame_size.width)
             : plan.part.width;
}

/// The part of frames of this size that a film of that size shows: the largest of its shape, in the middle.
inline image::RectF film_part(image::Size frame, image::Size film) {
  return image::part_of_shape(frame, film);
}

/// The plan of what is seen at a place of the take (from 0, between frames where it is no whole number),
/// whose frame is of this size (upright).
inline FramePlan plan_of(const FilmOrder& order, double take_place, image::Size frame_size,
                         const level::Correction& correction) {
  return {static_cast<size_t>(take_place),
          correction,
          film_part(frame_size, order.size),
          order.size,
          look::look_at(order.looks, take_place + static_cast<double>(order.first_frame)),
          order.looks.as_shot_k,
          order.looks.cube};
}

}  // namespace askcount::render
