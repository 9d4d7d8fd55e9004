// How bright a frame is: its mean, its parts and its spread of tones.
#pragma once

#include <array>
#include <cstdint>

#include "picture/pixels.h"

namespace askcount::picture {

/// The light of one frame as coded, in linear luminance where 1.0 is white.
struct FrameLight {
  static constexpr int kAcross = 16;
  static constexpr int kDown = 12;
  static constexpr int kBlocks = kAcross * kDown;

  double mean = 0;                      ///< mean luminance
  std::array<float, kBlocks> blocks{};  ///< log2 of each part's mean luminance, rows from the top
  std::array<std::array<std::uint32_t, 256>, 3> tones{};  ///< how many samples have each code, by colour
  std::uint32_t samples = 0;                              ///< pixels looked at

  /// Log2 of the mean, in stops; black is −20.
  double stops() const;
  /// Mean luminance the frame has after GainCurve(gain), from its tones.
  double mean_after(double gain) const;
  /// Share of samples with a colour at 254 or above.
  double clipped() const;
};

/// Measures the part `where` of a picture, looking at no more than about 600,000 pixels, evenly spread.
FrameLight measure_light(const Picture8& picture, const Rect& where);

/// The gain in linear light that gives the frame the mean luminance 2^`target` once its highlights are held.
/// Within half a stop of the plain ratio where clipping leaves no better.
double gain_for(const FrameLight& light, double target_stops);

}  // namespace askcount::picture
