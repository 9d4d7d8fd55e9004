// SPDX-License-Identifier: GPL-3.0-or-later
// Colours that wander from frame to frame: of the whole picture, and of parts of it for themselves.
#pragma once

#include <array>
#include <cstddef>
#include <vector>

#include "image/field.h"
#include "image/luminance.h"
#include "level/part_flicker.h"

namespace askcount::level {

/// What most parts of a picture share of a change of colour.
struct SharedChange {
  double stops = 0, chance = 0;  ///< and its standard error; both 0 where too few parts tell
  bool operator==(const SharedChange&) const = default;
};

/// Between a colour against green of one frame's parts and of the next, both as in image::Luminance; `stops`
/// is the brightness of the parts. Only parts that are `measured` (all where it is empty) are asked.
SharedChange shared_change(const std::array<float, image::Luminance::kParts>& before,
                           const std::array<float, image::Luminance::kParts>& now,
                           const std::array<float, image::Luminance::kParts>& stops,
                           const std::vector<bool>& measured);

/// Holds red and blue against green, frame by frame: what most parts share is smoothed by a local line, as
/// far as it is more than chance; what parts do for themselves (a sky under a lamp that pulses, ground that
/// stays) by a field, as PartFlicker tells it from movement.
class ColourWander {
 public:
  /// `parts`: whether parts are held for themselves too.
  ColourWander(int reach, bool parts, std::vector<bool> measured);

  /// The colours of the next frame; null where it cannot be read.
  void add(const image::Luminance* luminance);

  /// How far red and blue are from green up to frame n, in stops from the first.
  double red(size_t n) const { return samples_[n].red; }
  double blue(size_t n) const { return samples_[n].blue; }

  /// What is to be added to red and blue, in stops: everywhere, and besides by part.
  struct Held {
    double red = 0, blue = 0;
    image::Field red_field, blue_field;
  };
  /// Of frame n, once min(n + reach, frames − 1) has been added.
  Held held(size_t n);

 private:
  struct Sample {
    bool known = false;
    double red = 0, blue = 0;  // against green, added up from what most parts share of each change
    double red_chance = 0, blue_chance = 0;  // standard errors of the last change
  };
  double of_whole(size_t n, double Sample::*colour, double Sample::*chance) const;

  int reach_;
  std::vector<bool> measured_;
  std::vector<Sample> samples_;
  std::array<float, image::Luminance::kParts> last_red_{}, last_blue_{};
  bool any_ = false, by_parts_;
  PartFlicker red_parts_, blue_parts_;
};

}  // namespace askcount::level
