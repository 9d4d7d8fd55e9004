// SPDX-License-Identifier: GPL-3.0-or-later
// Which pixels, weighted how, make each pixel of a picture of another size.
#pragma once

#include <vector>

#include "image/affine.h"
#include "image/pixels.h"
#include "image/sampling.h"

namespace askcount::image {

/// The weights along one side: `taps` source pixels from `first` on for each output.
struct Taps {
  int taps = 0;
  std::vector<int> first;
  std::vector<float> weights;

  /// `part` pixels from `offset` on, of `source` in all, onto `output` pixels. Nothing from outside the part
  /// comes in. The kernel, 2t³ − 3t² + 1 over a pixel of the smaller picture, has no negative lobes: no dark
  /// rims around lamps.
  static Taps of(int source, double offset, double part, int output);
  /// The same by another kernel, for output pixels that lie `step` source pixels apart from `offset` on. What
  /// lies around the part comes in; what lies outside the source is as its edge.
  static Taps of(int source, double offset, double step, int output, Kernel kernel);
};

/// A part of pictures of one size resampled onto another size: made once, then const and safe from several
/// threads.
class Resampling {
 public:
  /// `part` is in pixels of `from` and lies within it.
  Resampling(Size from, const RectF& part, Size to);

  /// The same through a straight map (Affine::straight()) from places of what is drawn to the picture's.
  Resampling(Size from, const Affine& map, Size to, Kernel kernel);

  bool fits(Size from, const RectF& part, Size to) const {
    return from == from_ && part == part_ && to == to_;
  }
  Size from() const { return from_; }
  Size to() const { return to_; }
  const Taps& across() const { return across_; }
  const Taps& down() const { return down_; }

 private:
  Size from_, to_;
  RectF part_;
  Taps across_, down_;
};

}  // namespace askcount::image
