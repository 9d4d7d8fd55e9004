// SPDX-License-Identifier: GPL-3.0-or-later
// Flicker that parts of the picture have for themselves, in brightness or in a colour.
#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <vector>

#include "image/field.h"
#include "image/luminance.h"
#include "level/field_fit.h"

namespace askcount::level {

/// Finds, frame by frame, the smooth field that holds each part of the picture to its own even light: sky
/// that flickers over ground that does not. What only a few parts do (people, boats, lamps) is told from
/// flicker by a fit that is deaf to outliers; and each term of the field counts only as far as it stands out
/// of what such movement makes by chance (Wiener's weight, over the frames around).
class PartFlicker {
 public:
  explicit PartFlicker(int reach) : reach_(reach) {}

  using Parts = std::array<float, image::Luminance::kParts>;

  /// The parts of the next frame in stops, image::Luminance::kUnknown for those that tell nothing; null where
  /// it cannot be read.
  void add(const Parts* stops);

  /// Frame n, which was added, tells nothing after all.
  void leave_out(size_t n);

  /// What is to be added to frame n, in stops, besides the change of the whole. `exposure` has the recorded
  /// exposure of every frame in stops, as it stays; null where none counts. Where the change of the `whole`
  /// is told, the field brings what is lacking of it too. Frames up to n + reach must have been added, where
  /// there are that many.
  image::Field field(size_t n, const std::vector<double>* exposure, std::optional<double> whole = {});

 private:
  static constexpr int kTerms = image::Field::kTerms;
  static constexpr int kParts = image::Luminance::kParts;
  struct Frame {
    bool known = false;
    Parts stops{};  // kUnknown for what tells nothing
  };
  const FieldFit& quick(size_t n, const std::vector<double>* exposure);

  int reach_;
  std::vector<Frame> frames_;
  std::vector<FieldFit> quick_;  // of second differences, which need no frames but the neighbours
  std::vector<char> quick_there_;
};

}  // namespace askcount::level
