// SPDX-License-Identifier: GPL-3.0-or-later
// The inner loops of developing raw values, over one row each.
#pragma once

#include <array>
#include <cstdint>

namespace askcount::media {

/// What makes light of a sensor's values.
struct SensorLight {
  std::array<float, 3> white = {1, 1,
                                1};  ///< what a value at the sensor's white becomes, each colour; least 1
  std::array<std::array<float, 3>, 3> matrix = {
      {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};  ///< to BT.709, rows first
};

/// Four values of the mosaic around a point: where they lie in two rows, what is black there, and what a
/// value is multiplied by. Red, the two greens, blue.
struct MosaicSite {
  const std::uint16_t* first = nullptr;  ///< of the row; every second value from there is of this site
  float black = 0, scale = 1;
};

/// `n` pixels of half the size from two rows of a mosaic: colours of the sensor, white balanced, three floats
/// a pixel. Nothing is interpolated; the two greens are averaged. Where one colour is at its `white` the
/// others tell how far it would have gone on.
void half_row(const std::array<MosaicSite, 4>& sites, const std::array<float, 3>& white, float* rgb, int n);

/// The same of 16-bit values of three colours, times a scale.
void whole_row(const std::uint16_t* values, float scale, const std::array<float, 3>& white, float* rgb,
               int n);

/// Colours of the sensor, four floats a pixel, as light, three, through the matrix. Nothing is left below 0,
/// and nothing above top_of(light).
void light_row(const float* sensor, const SensorLight& light, float* rgb, int n);

/// The most light of a colour that the sensor can tell of.
float top_of(const SensorLight& light);

}  // namespace askcount::media
