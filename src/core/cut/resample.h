// From a decoded frame to a film frame in one go: linear light, film size, brightness, coding.
#pragma once

#include <cstdint>
#include <vector>

#include "picture/pixels.h"

namespace askcount::cut {

/// A film frame as encoders take it: BT.709 Y′CbCr 4:2:0, 8 bits, limited range. Width and height are even.
struct FilmFrame {
  picture::Size size;
  std::uint8_t* plane[3] = {};
  int stride[3] = {};
};

/// Resamples one part of pictures of one size to the film's size. Weights are made once; draw() is const and
/// safe from several threads at once.
class Resampler {
 public:
  /// `part` of pictures of size `from`, onto `to` (even). A kernel without negative lobes: no dark rims
  /// around lamps.
  Resampler(picture::Size from, picture::Rect part, picture::Size to);

  bool fits(picture::Size from, picture::Rect part) const { return from == from_ && part == part_; }

  /// Decodes to linear light, resamples in it, applies `gain` with held highlights, codes and writes Y′CbCr.
  void draw(const picture::Picture8& picture, double gain, const FilmFrame& film) const;

 private:
  struct Axis {
    int taps = 0;
    std::vector<int> first;      // first source index of each output
    std::vector<float> weights;  // taps of them each
  };
  static Axis axis(int source, int offset, int length, int output);

  picture::Size from_, to_;
  picture::Rect part_;
  Axis across_, down_;
};

}  // namespace askcount::cut
