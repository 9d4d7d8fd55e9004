// SPDX-License-Identifier: GPL-3.0-or-later
// How bright a frame is: its mean, its parts and its spread of tones in stops.
#pragma once

#include <array>
#include <cstdint>

#include "image/pixels.h"
#include "image/tone.h"

namespace askcount::image {

/// How many samples of one colour lie in each sixteenth of a stop, and the light they add up to.
struct Histogram {
  static constexpr int kPerStop = 16;
  static constexpr int kStops = 20;  ///< from −16 to +4 stops of white
  static constexpr int kBins = kPerStop * kStops;
  std::array<std::uint32_t, kBins> count{};
  std::array<float, kBins> light{};  ///< linear, summed

  /// The sixteenth of a stop a linear value lies in; the first and the last take what is beyond them.
  static int bin_of(float linear);
};

/// The light of one frame, linear, where 1.0 is white. Of a picture with a `top` beyond that it is what is
/// shown (Shoulder), but for the tones.
struct Luminance {
  static constexpr int kAcross = 16;
  static constexpr int kDown = 12;
  static constexpr int kParts = kAcross * kDown;

  double mean = 0;                    ///< mean luminance
  float top = 1;                      ///< the most light there can be; what is beyond 1 is bent when shown
  std::array<float, kParts> parts{};  ///< log2 of each part's mean luminance, rows from the top
  std::array<float, kParts> red{};    ///< log2 of each part's mean red against its mean green
  std::array<float, kParts> blue{};   ///< the same of blue; both kUnknown where it is too dark or too light
  static constexpr float kUnknown = 99;
  std::array<float, kParts> darkest{};   ///< linear light of each part's darkest colour where it is darkest
  std::array<Histogram, 3> tones{};      ///< red, green, blue
  std::uint32_t samples = 0;             ///< pixels looked at
  std::array<std::uint32_t, 3> white{};  ///< samples of each colour at the top of the coding

  /// Mean linear red, green and blue, from the tones, beyond white too.
  std::array<double, 3> mean_colour() const;
  /// Log2 of the mean, in stops; black is −20.
  double stops() const;
  /// Mean luminance the frame has after the GainCurve of each colour, as it is shown, from its tones.
  double mean_after(const Gain& gain) const;
  /// Share of samples with a colour at the top of the coding (codes 254 and 255, or white and beyond).
  double clipped() const;
};

/// Measures the part `where` of a picture, looking at no more than about 600,000 pixels, evenly spread.
Luminance measure_luminance(const Coded8& picture, const Rect& where);
Luminance measure_luminance(const Linear32& picture, const Rect& where);
Luminance measure_luminance(const Picture& picture, const Rect& where);

/// The gain in linear light that gives the frame the mean luminance 2^`target` once its highlights are held.
/// Within half a stop of the plain ratio where clipping leaves no better.
double gain_for(const Luminance& luminance, double target_stops);
/// The same where the colours are multiplied by `tint` besides: both in one.
Gain gain_for(const Luminance& luminance, double target_stops, const Gain& tint);

}  // namespace askcount::image
