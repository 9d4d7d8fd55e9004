// SPDX-License-Identifier: GPL-3.0-or-later
// A frame as it was read for the films that show it.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "image/affine.h"
#include "image/luminance.h"
#include "media/frame_source.h"

namespace askcount::render {

/// A frame decoded at the scale the largest film needs.
struct Decoded {
  size_t index = 0;                           ///< in the take, from 0
  std::shared_ptr<const media::Shown> shown;  ///< null where it could not be read
  image::Size full;                           ///< of the whole upright frame
  image::RectF part;                          ///< of it that all films need together, as shares
  std::vector<image::Luminance> luminance;    ///< one a film that levels on the way, in their order
  std::string trouble;
};

/// Where a part of the frame (shares) lies in what was read of `read`, in pixels of the picture.
inline image::RectF place_in(const media::Shown& shown, const image::RectF& read, const image::RectF& part) {
  const double across = shown.part.width / read.width, down = shown.part.height / read.height;
  return {shown.part.x + (part.x - read.x) * across, shown.part.y + (part.y - read.y) * down,
          part.width * across, part.height * down};
}

/// A map from places of a film to places of the frame, as one to places of the picture that was read.
inline image::Affine picture_map(const Decoded& from, const image::Affine& film_to_frame) {
  const media::Shown& shown = *from.shown;
  const double across = shown.part.width / (from.part.width * from.full.width);
  const double down = shown.part.height / (from.part.height * from.full.height);
  const image::Affine read = image::Affine::shifted(shown.part.x, shown.part.y)
                                 .after(image::Affine::scaled(across, down)
                                            .after(image::Affine::shifted(-from.part.x * from.full.width,
                                                                          -from.part.y * from.full.height)));
  return read.after(film_to_frame);
}

}  // namespace askcount::render
