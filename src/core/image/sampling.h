// SPDX-License-Identifier: GPL-3.0-or-later
// A picture seen through a straight map: turned, shifted by parts of a pixel, larger or smaller.
#pragma once

#include <algorithm>
#include <cmath>
#include <vector>

#include "image/affine.h"
#include "image/pixels.h"

namespace askcount::image {

/// How pixels between pixels come about.
enum class Kernel {
  Calm,  ///< quadratic B-spline: no negative lobes, no halos, alike at every part of a pixel
  Crisp  ///< cubic by Keys (a = −1/2): sharper, edges of high contrast get a faint rim
};

/// Half the width of a kernel in pixels of the smaller picture.
double reach_of(Kernel kernel);
/// Its value at a distance in the same pixels.
double kernel_at(Kernel kernel, double distance);

/// Weights of the taps around a place, for every fraction of a pixel it may lie at.
class KernelTable {
 public:
  static constexpr int kPhases = 1024;
  /// For a picture that is `ratio` pixels of its own to one that is drawn.
  KernelTable(Kernel kernel, double ratio);
  int taps() const { return taps_; }
  /// The first tap of a place (in pixels, the first pixel's middle at 0.5), and its weights.
  const float* at(double place, int& first) const {
    return weights_.data() + phase_at(place, first) * wide(1);
  }
  /// The same with every weight four times, for pixels of four floats.
  const float* at_fourfold(double place, int& first) const {
    return fourfold_.data() + phase_at(place, first) * wide(4);
  }

 private:
  std::size_t wide(int each) const { return static_cast<std::size_t>(taps_ * each); }
  std::size_t phase_at(double place, int& first) const {
    const double from = place - 0.5 - half_;
    const double whole = std::ceil(from);
    first = static_cast<int>(whole);
    return std::min<std::size_t>(static_cast<std::size_t>((whole - from) * kPhases), kPhases);
  }
  int taps_;  // even
  double half_;
  std::vector<float> weights_, fourfold_;
};

/// Pictures of one size drawn at another through a map: made once, then const and safe from several threads.
/// What lies outside the picture looks like its nearest edge.
class Sampling {
 public:
  /// `map` takes places of what is drawn to places of the picture.
  Sampling(Size from, const Affine& map, Size to, Kernel kernel);
  Size from() const { return from_; }
  Size to() const { return to_; }
  const Affine& map() const { return map_; }
  const KernelTable& across() const { return across_; }
  const KernelTable& down() const { return down_; }
  /// The picture's rows that row y of what is drawn needs: first and last, within the picture.
  std::array<int, 2> rows_of(int y) const;

 private:
  Size from_, to_;
  Affine map_;
  KernelTable across_, down_;
};

/// Rows of the source, four floats a pixel: `rows[k]` is row `first` + k. `margin` pixels before the first
/// and after the last pixel of each hold copies of them.
struct SourceRows {
  const float* const* rows;
  int first, count, margin;
};

/// Row y of what is drawn, four floats a pixel.
void sample_row(const Sampling& how, int y, const SourceRows& source, float* out);

/// Goes down the rows of what is drawn with no more of the source in memory than a row needs; Load and Take
/// as in resample_rows().
template <typename Load, typename Take>
void sample_rows(const Sampling& how, const Load& load, Take&& take) {
  const int wide = how.from().width;
  const int margin = how.across().taps() + 1;
  const auto pitch = static_cast<std::size_t>(4 * (wide + 2 * margin));
  int ring = 1;
  for (int y = 0; y < how.to().height; ++y) {
    const auto [first, last] = how.rows_of(y);
    ring = std::max(ring, last - first + 1);
  }
  std::vector<float> held(pitch * static_cast<std::size_t>(ring)),
      room(3 * static_cast<std::size_t>(wide) + 1);
  std::vector<int> in_ring(static_cast<std::size_t>(ring), -1);
  std::vector<const float*> rows(static_cast<std::size_t>(ring));
  std::vector<float> out(4 * static_cast<std::size_t>(how.to().width));
  for (int y = 0; y < how.to().height; ++y) {
    const auto [first, last] = how.rows_of(y);
    for (int row = first; row <= last; ++row) {
      const auto slot = static_cast<std::size_t>(row % ring);
      float* place = held.data() + slot * pitch;
      if (in_ring[slot] != row) {
        const float* light = load(row, room.data());
        float* into = place + static_cast<std::size_t>(4 * margin);
        for (int x = 0; x < wide; ++x)
          for (int c = 0; c < 3; ++c) into[4 * x + c] = light[3 * x + c];
        for (int m = 1; m <= margin; ++m)
          for (int c = 0; c < 3; ++c) {
            into[-4 * m + c] = light[c];
            into[4 * (wide - 1 + m) + c] = light[3 * (wide - 1) + c];
          }
        in_ring[slot] = row;
      }
      rows[static_cast<std::size_t>(row - first)] = place + static_cast<std::size_t>(4 * margin);
    }
    sample_row(how, y, {rows.data(), first, last - first + 1, margin}, out.data());
    take(y, out.data());
  }
}

}  // namespace askcount::image
