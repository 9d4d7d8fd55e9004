// SPDX-License-Identifier: GPL-3.0-or-later
// A gain that changes smoothly over a picture.
#pragma once

#include <array>
#include <vector>

#include "image/affine.h"

namespace askcount::image {

/// Stops that vary over a picture by a few cosines: kAcross × kDown of them, the first being everywhere
/// alike. The discrete cosine basis (type II) over shares of width and height.
struct Field {
  static constexpr int kAcross = 4;
  static constexpr int kDown = 6;
  static constexpr int kTerms = kAcross * kDown;
  static constexpr double kMost = 1;  ///< stops it is held to, either way

  std::array<float, kTerms> stops{};  ///< the terms, rows from the top

  bool flat() const;
  /// Stops at a place, as shares of width and height from the upper left, within kMost.
  double at(double x, double y) const;
  /// The value of term `term` there, from −1 to 1.
  static double term(int term, double x, double y);
  bool operator==(const Field&) const = default;
};

/// The gains of a field along the rows of a picture.
class FieldRows {
 public:
  /// For a picture of `width` × `height` pixels.
  FieldRows(const Field& field, int width, int height);
  /// The same for a picture whose places (in pixels) `map` takes to shares of what the field is over. What
  /// lies beyond that is as at its edge.
  FieldRows(const Field& field, int width, int height, const Affine& map);
  /// The gain of each pixel of row y.
  void row(int y, float* gains) const;

 private:
  static constexpr int kNodes = 33;
  double place_of(int node) const;
  float turned_stops(int node, int y) const;
  const Field field_;
  int width_;
  Affine map_;  // places of the picture to shares of the field
  bool turned_ = false;
  std::array<std::array<float, kNodes>, Field::kAcross> across_{};
};

}  // namespace askcount::image
