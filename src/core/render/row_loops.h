// SPDX-License-Identifier: GPL-3.0-or-later
// The inner loops of drawing, over one row each. `n` counts pixels unless said otherwise.
#pragma once

#include <array>
#include <cstdint>

#include "media/frame_buffer.h"

namespace askcount::render {

/// A row of coded red, green and blue, 0 to 255 and not rounded.
struct Coded {
  float *r = nullptr, *g = nullptr, *b = nullptr;
};

/// `n` codes looked up as linear light.
void to_linear(const std::uint8_t* codes, const float* table, float* linear, int n);

/// Places of `n` linear values in a CodingTable: the square root of what is between 0 and 1, times its steps.
void table_places(const float* linear, int* places, int n);

/// A row of linear light, four floats a pixel, times a gain of each pixel and one of each colour; highlights
/// held as in image::GainCurve.
void gain_row(float* rgb, const float* gains, const std::array<float, 4>& colours, int n);
/// The same with gains of each pixel for red and blue besides.
void gain_row(float* rgb, const float* gains, const float* red, const float* blue,
              const std::array<float, 4>& colours, int n);

/// Gains of each pixel: for all colours, and for red and blue besides; those two null where there are none.
struct RowGains {
  const float *all, *red = nullptr, *blue = nullptr;
};

/// The gains of gain_row() (red and blue both null where there are none) with highlights held at `top`, not
/// at white; then what is beyond white is bent below it, as image::Shoulder does.
void bend_row(float* rgb, const RowGains& gains, const std::array<float, 4>& colours, float top, int n);

/// A veil lifted: air + (light − air) × gain, not below 0 and never raised.
void lift_row(float* rgb, const float* gains, float air, int n);

/// Columns of a matrix, the fourth of each unused.
using Mix = std::array<std::array<float, 4>, 3>;

/// Colours put through a matrix; the nearer the lightest of them is to white, the less.
void mix_row(float* rgb, const Mix& mix, int n);

/// The middle one of three rows of codes with more contrast against the mean of the nine pixels around each,
/// within 0 to 255. Luminance alone changes.
void crisp_row(const Coded& above, const Coded& row, const Coded& below, float more, const Coded& out, int n);

/// Coded colours of a row whose places lie four a pixel, by a table for each.
void code_row(const int* places, const std::array<const float*, 3>& tables, const Coded& out, int n);

/// Y′ of one row, Cb and Cr of two rows by two columns (`n` of them), limited range in 8 or 10 bits.
void luma_row(const Coded& row, media::Matrix matrix, std::uint8_t* y, int n);
void luma_row(const Coded& row, media::Matrix matrix, std::uint16_t* y, int n);
void chroma_row(const Coded& above, const Coded& below, media::Matrix matrix, std::uint8_t* cb,
                std::uint8_t* cr, int n);
void chroma_row(const Coded& above, const Coded& below, media::Matrix matrix, std::uint16_t* cb,
                std::uint16_t* cr, int n);

/// Codes rounded, red, green and blue side by side; 16 bits have 257 for each code.
void picture_row(const Coded& row, std::uint16_t* rgb, int n);
void picture_row(const Coded& row, std::uint8_t* rgb, int n);

}  // namespace askcount::render
