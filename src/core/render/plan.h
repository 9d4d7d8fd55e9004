// What every film frame is made from.
#pragma once

#include <cstddef>
#include <filesystem>
#include <vector>

#include "base/output.h"
#include "film/encoder.h"
#include "image/pixels.h"
#include "image/tone.h"
#include "level/levelling.h"

namespace askcount::render {

/// A film to be made from a take's frames.
struct FilmOrder {
  std::filesystem::path output;
  Guard guard;  ///< what is not to be written over; the frames never are
  FrameRate fps;
  image::Size size{1920, 1080};
  film::Coding coding;
  level::Smoothing smoothing;
  bool levelled = true;  ///< false leaves every frame as it was shot
  /// Linear, one a frame, where the levelling is known already; otherwise it is worked out on the way.
  std::vector<image::Gain> gains;
};

/// How the brightness of a frame is put right.
struct Correction {
  image::Gain gain;  ///< in linear light, highlights held
  bool operator==(const Correction&) const = default;
};

/// One film frame: which frame of the take, which part of it, and what is done to its light.
struct FramePlan {
  size_t frame = 0;
  Correction correction;
  image::RectF part;  ///< shares of the upright frame
  bool operator==(const FramePlan&) const = default;
};

/// The part of frames of this size that a film of that size shows: the largest of its shape, in the middle.
inline image::RectF film_part(image::Size frame, image::Size film) {
  return image::part_of_shape(frame, film);
}

/// The plan of a film frame whose frame is of this size (upright).
inline FramePlan plan_of(const FilmOrder& order, size_t film_frame, image::Size frame_size,
                         const Correction& correction) {
  return {film_frame, correction, film_part(frame_size, order.size)};
}

}  // namespace askcount::render
